import { Package } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** What is sold, and at which price. */
export const products: Feature = {
  pages: [{ path: 'setup/products', lazy: () => import('./products-page') }],
  places: [
    {
      path: '/setup/products',
      sets: 'product',
      label: 'Products',
      group: 'Setup',
      letter: 'O',
      icon: Package,
      isFor: (policy) => policy.may('setUpProducts'),
      about: 'What is sold, with code, family and unit price, and how much of each was sold lately.',
      words: 'price list article item sku catalogue goods',
    },
  ],
};

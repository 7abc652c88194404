import { chosenFrom, object } from '../../kernel/catalogue/shared-fields';

/** Something that is sold, at a price. */
export const product = object({
  label: 'Product',
  plural: 'Products',
  path: 'products',
  category: 'setup',
  setUpBy: 'setUpProducts',
  nameField: 'name',
  fields: {
    code: { label: 'Code', type: 'text', required: true, maxLength: 40 },
    name: { label: 'Name', type: 'text', required: true },
    family: { label: 'Family', ...chosenFrom('productFamily') },
    unitPrice: { label: 'Unit price', type: 'money', currency: 'currency', required: true, min: 0 },
    currency: { label: 'Currency', type: 'currency', required: true },
    retired: { label: 'Retired', type: 'yesNo' },
  },
});

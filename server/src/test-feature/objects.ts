/**
 * The objects of a feature that exists in tests only: estimates with lines, filed in binders. It holds that an object
 * with parts, totals, derived values, a route and an entry on timelines costs its own files and a line in each list.
 */
export const testObjects = {
  binder: {
    label: 'Binder',
    plural: 'Binders',
    path: 'binders',
    category: 'work',
    nameField: 'name',
    fields: {
      name: { label: 'Name', type: 'text', required: true },
      owner: { label: 'Owner', type: 'link', to: 'person', required: true },
      pieces: { label: 'Pieces', type: 'number', set: 'feature', isUnlogged: true },
    },
  },
  estimate: {
    label: 'Estimate',
    plural: 'Estimates',
    path: 'estimates',
    category: 'work',
    nameField: 'name',
    fields: {
      name: { label: 'Name', type: 'text', required: true },
      account: { label: 'Account', type: 'link', to: 'account' },
      filedIn: { label: 'Filed in', type: 'link', to: 'binder' },
      currency: { label: 'Currency', type: 'currency', required: true },
      total: { label: 'Total', type: 'money', currency: 'currency', set: 'feature' },
      pieces: { label: 'Pieces', type: 'number', set: 'feature', isUnlogged: true },
      owner: { label: 'Owner', type: 'link', to: 'person', required: true },
    },
  },
  estimateLine: {
    label: 'Line',
    plural: 'Lines',
    path: 'estimate-lines',
    category: 'work',
    nameField: 'name',
    ownedBy: { link: 'estimate', as: 'lines' },
    fields: {
      estimate: { label: 'Estimate', type: 'link', to: 'estimate', required: true, set: 'feature' },
      position: { label: 'Order', type: 'number', required: true, set: 'feature' },
      name: { label: 'What', type: 'text', required: true },
      quantity: { label: 'Quantity', type: 'number', required: true, min: 1 },
      price: { label: 'Price', type: 'number', required: true, min: 0 },
      amount: { label: 'Amount', type: 'number', set: 'feature' },
    },
  },
} as const;

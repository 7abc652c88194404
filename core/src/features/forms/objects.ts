import { goesTo, object } from '../../kernel/catalogue/shared-fields';

export const form = object({
  label: 'Form',
  plural: 'Forms',
  path: 'forms',
  category: 'setup',
  setUpBy: 'setUpCapture',
  isConfidential: true,
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    slug: { label: 'Address', type: 'text', required: true, maxLength: 60 },
    /** What visitors read and fill in, as JSON. */
    design: { label: 'Design', type: 'longText', required: true },
    ...goesTo,
    active: { label: 'Open', type: 'yesNo', required: true },
  },
});

import { type CustomField } from '.';

/** A field of one's own for tests, with what is said of it here and nothing else. */
export const ownField = (values: Partial<CustomField>): CustomField => ({
  id: 1,
  version: 1,
  createdAt: '',
  createdBy: null,
  updatedAt: '',
  object: 'deal',
  key: 'x_own',
  label: 'Own',
  type: 'text',
  choices: null,
  to: null,
  required: false,
  help: null,
  preset: null,
  section: null,
  position: 1,
  retired: false,
  ...values,
});

import { fieldOf, type Catalogue, type Field, type FieldType } from '../../kernel/catalogue';

/** One field of a lead as a form asks for it. */
export interface FormField {
  key: string;
  /** What stands above it; the field's own label when left out. */
  label?: string;
  help?: string;
  required?: true;
}

/** What visitors agree to, in the words they read. */
export interface FormConsent {
  text: string;
  /** A form can be sent without it when left out. */
  required?: true;
}

/** A web form as operations design it: what visitors read and fill in, and what every lead from it gets. */
export interface FormDesign {
  heading: string;
  intro: string;
  fields: FormField[];
  consent?: FormConsent;
  button: string;
  /** What stands there once it is sent. */
  thanks: string;
  /** What stands there while the form is paused. */
  closed: string;
  /** Values that every lead from this form gets. */
  sets: { source?: string; campaign?: string; tags?: string[] };
}

/** Fields a form asks for at most. */
export const MOST_FORM_FIELDS = 30;

const askable: ReadonlySet<FieldType> = new Set([
  'text',
  'longText',
  'email',
  'phone',
  'web',
  'country',
  'number',
  'percent',
  'money',
  'date',
  'yesNo',
  'choice',
  'choices',
]);
/** What only people who work here know. */
const INTERNAL = ['status', 'source', 'campaign', 'externalId'];

/** Whether a form can ask visitors for a field of a lead. */
export function isAskable(key: string, field: Field): boolean {
  return askable.has(field.type) && (field.set ?? 'edit') === 'edit' && !INTERNAL.includes(key);
}

/** What a form asks for, with what the catalogue knows of it; fields that are gone are left out. */
export function askedFields(catalogue: Catalogue, design: FormDesign): (FormField & { field: Field })[] {
  return design.fields.flatMap((asked) => {
    const field = fieldOf(catalogue, 'lead', asked.key);
    return field && isAskable(asked.key, field) ? [{ ...asked, field }] : [];
  });
}

/** What stands above a field of a form. */
export const askedLabel = ({ label, field }: FormField & { field: Field }) => label ?? field.label;

/** A form to begin with: who it is, how to reach them, what it is about. */
export const newForm: FormDesign = {
  heading: 'Get in touch',
  intro: 'Tell us what you need. We call back within a working day.',
  fields: [
    { key: 'name', required: true },
    { key: 'organisation' },
    { key: 'email', required: true },
    { key: 'phone' },
    { key: 'description', label: 'What is it about?' },
  ],
  consent: {
    text: 'You may use these details to answer my question.',
    required: true,
  },
  button: 'Send',
  thanks: 'Thank you. We have your question and will be in touch.',
  closed: 'This form is closed at the moment.',
  sets: { source: 'website' },
};

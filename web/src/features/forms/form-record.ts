import { type FormDesign, type RecordOf } from '@zawn/core';

/** A form as it is kept, its design as JSON. */
export type FormRecord = RecordOf<'form'>;

/** A form as it is edited. */
export type FormDraft = Pick<FormRecord, 'name' | 'slug' | 'to' | 'person'> & { design: FormDesign };

export const draftOf = ({ name, slug, to, person, design }: FormRecord): FormDraft => ({
  name,
  slug,
  to,
  person,
  design: JSON.parse(design) as FormDesign,
});

/** A draft as the values of a record. */
export const valuesOf = ({ design, ...values }: FormDraft) => ({ ...values, design: JSON.stringify(design) });

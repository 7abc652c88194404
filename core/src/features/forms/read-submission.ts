import { type Catalogue, type Field, type FieldValue } from '../../kernel/catalogue';
import { readCell, UnreadableCell, type CellReading } from '../imports/read-cell';
import { askedFields, askedLabel, type FormDesign } from './form-design';

/** What a browser sends: every field as text, those with several values as several texts. */
export type Typed = Readonly<Record<string, string | readonly string[] | undefined>>;

/** What is wrong with one field of a form, by its key; `consent` for the line agreed to. */
export type FormFaults = Record<string, string>;

export interface ReadSubmission {
  values: Record<string, FieldValue>;
  faults: FormFaults;
  /** The words agreed to; null when nobody agreed. */
  consent: string | null;
}

/** The name under which a form sends a field, apart from what it sends besides. */
export const inputName = (key: string) => `field-${key}`;

/** The name under which a form sends whether the consent line was ticked. */
export const CONSENT = 'consent';

const textsOf = (typed: Typed, name: string): string[] => {
  const value = typed[name];
  const texts = value === undefined ? [] : typeof value === 'string' ? [value] : value;
  return texts.map((text) => text.trim()).filter(Boolean);
};

/** Where a form is filled in: the currency of amounts and the zone of times typed. */
export type FormPlace = Pick<CellReading, 'currency' | 'timeZone'>;

function valueOf(field: Field, texts: readonly string[], place: FormPlace): FieldValue {
  const reading: CellReading = { ...place, people: [], dates: 'ymd' };
  if (field.type === 'choices')
    return texts.map((text) => String(readCell({ ...field, type: 'choice' }, text, reading)));
  if (field.type === 'yesNo') return texts.length > 0;
  return texts.length === 0 ? null : readCell(field, texts[0], reading);
}

/**
 * Reads what a visitor sent as values of a lead, before the catalogue's own check.
 * @returns the values, and for each field that cannot be read or is missing what to do about it.
 */
export function readSubmission(
  design: FormDesign,
  catalogue: Catalogue,
  typed: Typed,
  place: FormPlace,
): ReadSubmission {
  const values: Record<string, FieldValue> = {};
  const faults: FormFaults = {};
  for (const asked of askedFields(catalogue, design)) {
    const { key, field, required } = asked;
    const texts = textsOf(typed, inputName(key));
    if (required && texts.length === 0) faults[key] = `${askedLabel(asked)} is needed`;
    try {
      const value = valueOf(field, texts, place);
      if (value !== null && !(Array.isArray(value) && value.length === 0)) values[key] = value;
    } catch (error) {
      if (!(error instanceof UnreadableCell)) throw error;
      faults[key] = error.message.replace(' in this file’s order', '');
    }
    if (field.type === 'money' && field.currency && values[key] !== undefined)
      values[field.currency] = place.currency;
  }
  const isAgreed = textsOf(typed, CONSENT).length > 0;
  if (design.consent?.required && !isAgreed) faults[CONSENT] = 'Please agree to this to send the form';
  return { values, faults, consent: design.consent && isAgreed ? design.consent.text : null };
}

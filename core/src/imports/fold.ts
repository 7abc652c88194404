import { type FieldValue } from '../catalogue';

/** A name without regard to case, accents and runs of spaces. */
export const fold = (text: FieldValue | undefined) =>
  String(text ?? '')
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .trim();

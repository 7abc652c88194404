import { fieldsOf, type Catalogue, type Field, type ObjectKey } from '../catalogue';

/** Which field each column fills, by column index; null leaves the column out. */
export type ColumnMap = (string | null)[];

/** Letters and digits only, so that `E-Mail`, `e_mail` and `email` are one name. */
const plain = (name: string) => name.toLowerCase().replace(/[^\p{L}\d]/gu, '');

/** The fields of an object that a file can fill, in catalogue order. */
export function importableFields(catalogue: Catalogue, object: ObjectKey): [string, Field][] {
  return fieldsOf(catalogue, object).filter(
    ([, field]) => (field.set ?? 'edit') !== 'feature' && field.set !== 'computed' && !field.notImported,
  );
}

/**
 * Matches headings to fields by label, key and known synonyms; each field is given out once, to the leftmost
 * heading that names it best.
 */
export function matchColumns(
  catalogue: Catalogue,
  object: ObjectKey,
  headings: readonly string[],
): ColumnMap {
  const fields = importableFields(catalogue, object);
  const taken = new Set<string>();
  const map: ColumnMap = headings.map(() => null);
  const namings: ((key: string, field: Field) => readonly string[])[] = [
    (_, field) => [field.label],
    (key) => [key],
    (_, field) => field.synonyms ?? [],
  ];
  for (const namesOf of namings) {
    for (const [index, heading] of headings.entries()) {
      if (map[index] !== null || plain(heading) === '') continue;
      const match = fields.find(
        ([key, field]) =>
          !taken.has(key) && namesOf(key, field).some((name) => plain(name) === plain(heading)),
      );
      if (!match) continue;
      map[index] = match[0];
      taken.add(match[0]);
    }
  }
  return map;
}

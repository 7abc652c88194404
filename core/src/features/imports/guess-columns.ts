import { objectType, type Catalogue, type FieldType } from '../../kernel/catalogue';
import { countryCode } from '../../kernel/validation';
import { readDay, readNumber } from './conventions';
import { joinOrder } from './join-cells';
import { yesOrNo } from './cell-words';
import { partsOf } from './read-cell';
import { headingWords } from './heading-words';
import { FAMILY, GIVEN, nameRole } from './name-roles';
import { plainHeading } from './plain-heading';
import { type Guess, type Table } from './table';
import { fillableFields, ZAWN_ID, type FillableField, type Target } from './targets';

/** Which field each column fills, by column index; null leaves the column out. */
export type ColumnMap = (string | null)[];

export type ColumnGuess = Guess<string | null>;

/** The fields that columns of these headings were pointed at in files like this one; null for those left out. */
export type Remembered = Readonly<Record<string, string | null>>;

export { plainHeading };

const HAS_CURRENCY = /[£€$¥]|^[A-Z]{3}\b|\b[A-Z]{3}$/;

/** Cells of a column looked at. */
export const LOOKED_AT = 200;
/** Share of a column’s values that must look like a field for it to be taken for that field. */
const MOST_OF = 0.7;

/** A bare number may be a date to a spreadsheet; here it is a number. */
const isDateLike = (text: string) =>
  /\d\D|\D\d/.test(text) && (readDay(text) ?? readDay(text, 'mdy')) !== undefined;

/** Digits as phone numbers are written; 01/02/2026 and 0.250000 are written with the same signs. */
function isPhoneLike(text: string): boolean {
  const isWritten = /^\+?[\d\s()/.-]{7,20}$/.test(text) && /^[+0(]/.test(text);
  return isWritten && !isDateLike(text) && !/^\d+\.\d+$/.test(text);
}

/** Codes of two letters that are states of one country and no countries: beside them, CA and DE are states too. */
const STATES = new Set('AK CT FL HI IA KS MI NH NJ NM NV NY OH OK OR RI TX UT VT WA WI WV WY'.split(' '));

/** Small, two letters are a word: no is not Norway. */
const isCountryLike = (text: string) =>
  (/^[A-Z]{2}$/.test(text) || text.length > 3) && countryCode(text) !== undefined;

const LOOKS: readonly [FieldType, string, (text: string) => boolean][] = [
  ['email', 'email addresses', (text) => /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(text)],
  [
    'web',
    'web addresses',
    (text) => /^(https?:\/\/)?([\w-]+\.)+[a-z]{2,}(\/.*)?$/i.test(text) && !text.includes('@'),
  ],
  ['phone', 'phone numbers', isPhoneLike],
  ['country', 'countries', isCountryLike],
];

/** What most of a column’s values look like; undefined when they are just words. */
function looksLike(values: readonly string[]): { type: FieldType; words: string; share: number } | undefined {
  const filled = values.filter((value) => value !== '');
  if (filled.length === 0) return undefined;
  for (const [type, words, test] of LOOKS) {
    const share = filled.filter(test).length / filled.length;
    if (type === 'country' && filled.some((value) => STATES.has(value))) continue;
    if (share >= MOST_OF) return { type, words, share };
  }
  return undefined;
}

/** The names a field goes by, with how sure a heading of that name is to mean it. */
function namesOf({ object, key, field, part, label, isKey }: FillableField): [string, number, string][] {
  // A column headed “Id” holds that of another program.
  if (isKey) return [[label, 0.98, 'what Zawn knows the record by']];
  const synonyms = [...(field.synonyms ?? []), ...headingWords(object, key)];
  if (!part) {
    const record = objectType(object);
    // A column headed “Deal” in a list of deals holds their names.
    const records = key === record.nameField ? [record.label, `${record.label} name`] : [];
    return [
      [field.label, 0.98, 'named like the field'],
      [key, 0.96, 'named like the field'],
      ...[...synonyms, ...records].map((name): [string, number, string] => [
        name,
        0.9,
        'a usual name for this field',
      ]),
    ];
  }
  // A parent is an account, and no column headed “Company” means it.
  const isNamesake = part.link === part.object;
  const ofLink = label.replace(/’s .*$/, '');
  const others = [
    part.link,
    ofLink,
    ...(part.object === 'account' && isNamesake ? ['company', 'organisation', 'organization'] : []),
  ];
  const isName = key === 'name' || key === 'number';
  return [
    [label, 0.98, 'named like the field'],
    ...others.flatMap((other) =>
      [field.label, key, ...synonyms].map((name): [string, number, string] => [
        `${other} ${name}`,
        0.93,
        'named like the field',
      ]),
    ),
    ...(key === 'name'
      ? [...others, ...(isNamesake ? headingWords(object, key) : [])].map(
          (other): [string, number, string] => [other, 0.92, 'a usual name for this field'],
        )
      : []),
    // Without the other record’s name before it, a heading means the main record if that has such a field.
    ...(isName || !isNamesake ? [] : [field.label, key, ...synonyms]).map(
      (name): [string, number, string] => [name, 0.75, 'a usual name for this field'],
    ),
  ];
}

/**
 * Matches columns to fields: as the same heading was matched last time, by name, by known synonyms, and by what the
 * values look like. Each field is given out once, to the column that is surest of it.
 */
export function guessColumns(
  catalogue: Catalogue,
  target: Target,
  { headings, rows }: Pick<Table, 'headings' | 'rows'>,
  remembered: Remembered = {},
): ColumnGuess[] {
  const fields = fillableFields(catalogue, target);
  const paths = new Set(fields.map(({ path }) => path));
  const offers: { column: number; path: string; sure: number; why: string }[] = [];
  const byName = new Map<string, { path: string; sure: number; why: string }[]>();
  for (const field of fields)
    for (const [name, sure, why] of namesOf(field)) {
      const plain = plainHeading(name);
      byName.set(plain, [...(byName.get(plain) ?? []), { path: field.path, sure, why }]);
    }
  const leftOut = new Set<number>();
  for (const [column, heading] of headings.entries()) {
    const plain = plainHeading(heading);
    const before = remembered[plain];
    if (plain !== '' && before === null) leftOut.add(column);
    for (const offer of byName.get(plain) ?? []) offers.push({ column, ...offer });
    // In a file that Zawn wrote every column is called what it is.
    if (headings.includes(ZAWN_ID)) continue;
    const looks = looksLike(rows.slice(0, LOOKED_AT).map(({ cells }) => cells[column] ?? ''));
    if (!looks) continue;
    for (const [index, { path, field }] of fields.entries())
      if (field.type === looks.type)
        offers.push({
          column,
          path,
          sure: 0.7 * looks.share - index / 1000,
          why: `${Math.round(looks.share * 100)} % of the values are ${looks.words}`,
        });
  }
  const guesses: ColumnGuess[] = headings.map((_, column) => ({
    value: null,
    sure: leftOut.has(column) ? 0.9 : 0.5,
    why: leftOut.has(column) ? 'left out in files like this' : 'no field is called so',
  }));
  const taken = new Set<string>();
  // What was decided stands, several columns joined into one field included.
  for (const [column, heading] of headings.entries()) {
    const path = remembered[plainHeading(heading)];
    if (!path || !paths.has(path) || plainHeading(heading) === '') continue;
    const isAgain = headings.findIndex((each) => plainHeading(each) === plainHeading(heading)) < column;
    if (isAgain) continue;
    guesses[column] = { value: path, sure: 0.99, why: 'decided so for files like this' };
    taken.add(path);
  }
  for (const path of namePaths(fields)) {
    const columns = nameColumns(headings, rows);
    // Beside the whole name its parts stand in fields of their own, where there are any.
    const isWhole = (column: number) =>
      !columns.includes(column) &&
      offers.some((each) => each.column === column && each.path === path && each.sure > 0.9);
    if (headings.some((_, column) => isWhole(column))) continue;
    const isDecided = columns.some((column) => Object.hasOwn(remembered, plainHeading(headings[column])));
    if (columns.length < 2 || isDecided || taken.has(path)) continue;
    const order = joinOrder(columns, headings);
    const words = order.map((column) => headings[column]).join(', ');
    taken.add(path);
    for (const column of columns)
      guesses[column] = {
        value: path,
        sure: 0.95,
        why: `joined, ${order.indexOf(column) + 1} of ${order.length}: ${words}`,
      };
  }
  for (const { column, path, sure, why } of offers.sort((a, b) => b.sure - a.sure || a.column - b.column)) {
    if (leftOut.has(column) || guesses[column].value !== null || taken.has(path)) continue;
    guesses[column] = { value: path, sure, why };
    taken.add(path);
  }
  return guesses;
}

/** The paths at which a row names a person, the main record’s first. */
export const namePaths = (fields: readonly FillableField[]) =>
  fields
    .filter(({ object, key }) => key === 'name' && (object === 'lead' || object === 'contact'))
    .map(({ path }) => path);

/** Mr, Dr, Frau: what stands before a name, and no role. */
const SALUTATION =
  /^(mr|mrs|ms|miss|mx|dr|prof|herr|frau|m|mme|mlle|sr|sra|srta|sig|sigra|dott|dhr|mevr|hr|fru|pan|pani)\.?$/i;

/** The columns that hold the parts of one person’s name: a given and a family name, and what goes with them. */
export function nameColumns(headings: readonly string[], rows: Table['rows']): number[] {
  const plain = headings.map(plainHeading);
  const roles = plain.map((heading, column) => {
    const values = rows.slice(0, LOOKED_AT).map(({ cells }) => cells[column] ?? '');
    const filled = values.filter((value) => value !== '');
    // Under “Title” stands a role, unless what stands there is Mr and Mrs.
    if (/^(title|titel|titre|titolo|título|tittel)$/.test(heading))
      return filled.length > 0 && filled.every((value) => SALUTATION.test(value)) ? 0 : undefined;
    return heading === '' ? undefined : nameRole(heading);
  });
  const first = roles.indexOf(GIVEN);
  const last = roles.indexOf(FAMILY);
  if (first < 0 || last < 0) return [];
  return roles.flatMap((role, column) =>
    role === undefined || roles.indexOf(role) !== column ? [] : column,
  );
}

/** The type a new field for a column would have, from what its values look like. */
export function guessType(values: readonly string[]): Guess<FieldType> {
  const filled = values.filter((value) => value !== '').slice(0, LOOKED_AT);
  const all = (test: (value: string) => boolean) => filled.length > 0 && filled.every(test);
  const looks = looksLike(filled);
  if (looks && looks.share === 1 && looks.type !== 'country')
    return { value: looks.type, sure: 0.9, why: `All values are ${looks.words}` };
  if (all((value) => !/^[01\p{L}]$/u.test(value) && yesOrNo(value) !== undefined))
    return { value: 'yesNo', sure: 0.95, why: 'All values are yes or no' };
  if (all(isDateLike))
    return all((value) => /[T ]\d{1,2}:\d\d/.test(value))
      ? { value: 'dateTime', sure: 0.9, why: 'All values are dates with a time' }
      : { value: 'date', sure: 0.9, why: 'All values are dates' };
  // What begins with a zero, such as a customer’s number, would lose it as a number.
  if (all((value) => readNumber(value) !== undefined && !/^0\d/.test(value)))
    return all((value) => HAS_CURRENCY.test(value))
      ? { value: 'money', sure: 0.9, why: 'All values are amounts with a currency' }
      : { value: 'number', sure: 0.9, why: 'All values are numbers' };
  const members = filled.flatMap(partsOf);
  const kinds = new Set(members.map((member) => member.toLowerCase())).size;
  if (filled.length >= 12 && members.length >= filled.length * 1.2 && kinds <= 12)
    return { value: 'choices', sure: 0.7, why: `Several at once of ${kinds} different values` };
  const different = new Set(filled.map((value) => value.toLowerCase())).size;
  if (filled.length >= 12 && different <= 12 && different <= filled.length / 3)
    return { value: 'choice', sure: 0.7, why: `Only ${different} different values` };
  if (filled.some((value) => value.length > 120))
    return { value: 'longText', sure: 0.7, why: 'Some values are long' };
  return { value: 'text', sure: 0.6, why: 'The values are words' };
}

import { fieldAt, objectType, type ObjectKey } from '../../kernel/catalogue';

import {
  inWords,
  isDated,
  isNumeric,
  measureInWords,
  pathInWords,
  unitInWords,
  type Question,
  type Sort,
  type Wording,
} from '../../kernel/questions';
import { type Asked, type AskedDrawing } from './reading';
import { rates } from './vocabulary';

/** How each drawing is said. */
export const drawingWords: Record<AskedDrawing, string> = {
  table: 'a table',
  columns: 'columns',
  bars: 'bars',
  line: 'a line',
  pivot: 'a pivot',
  area: 'an area',
  share: 'shares of the whole',
  funnel: 'a funnel',
};
const compared = { before: 'the period before', yearBefore: 'the year before' } as const;

/** What the rate is called at which records come to what they are for. */
export const rateWord = (object: ObjectKey): string => rates[object]?.words[0] ?? 'rate';

/** An order as it is read: `close date latest first`, `name`. */
export function sortInWords(
  asked: Asked,
  { field, by, each, descending }: Sort,
  { catalogue }: Wording,
): string {
  const { object } = asked.question;
  const type = fieldAt(catalogue, object, field)?.type ?? 'text';
  const name = [
    pathInWords(catalogue, object, field) ?? field,
    by && isDated(type) ? ` by ${unitInWords(by)}` : '',
    each ? ' each by itself' : '',
  ].join('');
  if (isDated(type)) return `${name} ${descending ? 'latest' : 'earliest'} first`;
  if (isNumeric(type)) return `${name} ${descending ? 'highest' : 'lowest'} first`;
  return descending ? `${name} backwards` : name;
}

/** A column as it is read, with the name it was given: `account’s name called “Client”`. */
function columnInWords({ object, labels }: Question, path: string, { catalogue }: Wording): string {
  const name = pathInWords(catalogue, object, path) ?? path;
  return labels?.[path] === undefined ? name : `${name} called “${labels[path].replaceAll('”', '””')}”`;
}

/** What was asked, written out in full: `Deals where …, grouped by owner, showing sum of value, as columns`. */
export function askedInWords(asked: Asked, wording: Wording): string {
  const { question, draw, limit } = asked;
  const { object, sort = [], first, measures = [], columns } = question;
  const firsts =
    first && measureInWords(wording.catalogue, object, measures[first.measure] ?? { as: 'count' }, wording);
  const { asOf, ...plain } = question;
  const whole = inWords(question, wording);
  const now = inWords(plain, wording);
  return [
    now,
    ...sort.map(
      (each, index) => `${index === 0 ? 'in order of ' : 'then '}${sortInWords(asked, each, wording)}`,
    ),
    columns && columns.length > 0
      ? `with the columns ${listed(columns.map((path) => columnInWords(question, path, wording)))}`
      : '',
    limit === undefined ? '' : `the first ${limit}`,
    first ? `the ${first.descending ? 'first' : 'last'} ${first.count} by ${firsts ?? ''}` : '',
    draw ? `as ${drawingWords[draw]}` : '',
    asked.hasRate ? `with the ${rateWord(object)}` : '',
    asked.compared ? `compared with ${compared[asked.compared]}` : '',
    asOf === undefined ? '' : whole.slice(now.length + 2),
  ]
    .filter(Boolean)
    .join(', ');
}

const listed = (parts: readonly string[]): string =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1) ?? ''}`;

/** What an answer is of: `deals`. */
export const askedOf = ({ question }: Asked): string => objectType(question.object).plural.toLowerCase();

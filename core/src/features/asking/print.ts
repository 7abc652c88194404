import { fieldAt, objectType } from '../../kernel/catalogue';

import {
  inWords,
  isTextual,
  measureInWords,
  pathInWords,
  type Sort,
  type Wording,
} from '../../kernel/questions';
import { type Asked } from './reading';

const drawn = {
  table: 'a table',
  columns: 'columns',
  bars: 'bars',
  line: 'a line',
  pivot: 'a pivot',
} as const;
const compared = { before: 'the period before', yearBefore: 'the year before' } as const;

/** An order as it is read: `close date latest first`, `name`. */
export function sortInWords(asked: Asked, sort: Sort, { catalogue }: Wording): string {
  const { object } = asked.question;
  const name = pathInWords(catalogue, object, sort.field) ?? sort.field;
  const type = fieldAt(catalogue, object, sort.field)?.type ?? 'text';
  if (isTextual(type)) return sort.descending ? `${name} backwards` : name;
  const [up, down] = type === 'date' || type === 'dateTime' ? ['earliest', 'latest'] : ['lowest', 'highest'];
  return `${name} ${sort.descending ? down : up} first`;
}

/** What was asked, written out in full: `Deals where …, grouped by owner, showing sum of value, as columns`. */
export function askedInWords(asked: Asked, wording: Wording): string {
  const { question, draw, limit } = asked;
  const { object, sort = [], first, measures = [] } = question;
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
    limit === undefined ? '' : `the first ${limit}`,
    first ? `the ${first.descending ? 'first' : 'last'} ${first.count} by ${firsts ?? ''}` : '',
    draw ? `as ${drawn[draw]}` : '',
    asked.compared ? `compared with ${compared[asked.compared]}` : '',
    asOf === undefined ? '' : whole.slice(now.length + 2),
  ]
    .filter(Boolean)
    .join(', ');
}

/** What an answer is of: `deals`. */
export const askedOf = ({ question }: Asked): string => objectType(question.object).plural.toLowerCase();

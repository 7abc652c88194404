import { type Condition, isDated, isNumeric, type Measure } from '../../kernel/questions';
import { comparedAt } from './amounts-words';
import { countAt, type Found } from './date-words';
import { type Reader } from './reader';
import { type AskedDrawing } from './reading';
import { mainAmount, rates } from './vocabulary';
import { stemOf } from './words';

const EXTREMES: readonly (readonly [string, Measure['as']])[] = [
  ...['highest', 'largest', 'biggest', 'maximum', 'max'].map((word) => [word, 'most'] as const),
  ...['lowest', 'smallest', 'minimum', 'min'].map((word) => [word, 'least'] as const),
];

/** How it is drawn: `as a line`, `chart of`. */
export function readDrawing(reader: Reader, at: number): number {
  const kinds: Record<string, AskedDrawing> = {
    column: 'columns',
    bar: 'bars',
    line: 'line',
    table: 'table',
    pivot: 'pivot',
    list: 'table',
    chart: 'columns',
    graph: 'line',
    area: 'area',
    pie: 'share',
    doughnut: 'share',
    donut: 'share',
    share: 'share',
    funnel: 'funnel',
    heatmap: 'pivot',
  };
  const said = reader.at(at, 'as a', 'as an', 'as', 'drawn as', 'shown as', 'in a', 'on a');
  const kind = reader.stem(at + said) ?? '';
  if (said > 0 && Object.hasOwn(kinds, kind)) {
    reader.rest.draw = kinds[kind];
    return said + 1 + reader.at(at + said + 1, 'chart', 'graph', 'drawing');
  }
  const chart = reader.at(
    at,
    'chart of',
    'graph of',
    'bar chart of',
    'column chart of',
    'line chart of',
    'area chart of',
    'pie chart of',
    'pie of',
    'funnel of',
    'pivot of',
    'table of',
  );
  if (chart === 0) return 0;
  const [first] = [reader.stem(at) ?? ''];
  reader.rest.draw = Object.hasOwn(kinds, first) ? (first === 'graph' ? 'columns' : kinds[first]) : 'columns';
  return chart;
}

/** What is over is the latest by when it ended. */
const ENDED = new Set(['won', 'lost', 'closed']);

const DOWN = [
  'descending',
  'highest first',
  'largest first',
  'biggest first',
  'latest first',
  'newest first',
  'down',
];
const UP = ['ascending', 'lowest first', 'smallest first', 'earliest first', 'oldest first', 'up'];

/** Which way an order goes, where that is said: whether the highest, or the latest, stands first. */
function directionAt(reader: Reader, at: number): Found<boolean> | undefined {
  const skipped = reader.at(at, ',');
  const down = reader.at(at + skipped, ...DOWN);
  const up = reader.at(at + skipped, ...UP);
  return down + up > 0 ? { value: down > 0, length: skipped + (down || up) } : undefined;
}

/** In which order, and how many first: `sorted by value`, `top 10`, `newest`. */
export function readOrder(reader: Reader, at: number): number {
  const sorted = reader.at(
    at,
    'sorted by',
    'ordered by',
    'in order of',
    'order by',
    'sort by',
    'by order of',
  );
  if (sorted > 0) {
    const field = reader.fieldNamed(at + sorted);
    if (!field) return 0;
    const way = directionAt(reader, at + sorted + field.length);
    reader.rest.sort = [{ field: field.value, ...(way?.value ? { descending: true } : {}) }];
    return sorted + field.length + (way?.length ?? 0);
  }
  const [before] = reader.rest.sort;
  const by =
    before && reader.rest.limit !== undefined && reader.stem(at) === 'by'
      ? reader.fieldNamed(at + 1)
      : undefined;
  const byType = by && reader.fieldAt(by.value)?.type;
  if (by && byType && (isNumeric(byType) || isDated(byType))) {
    reader.rest.sort = [{ ...before, field: by.value }];
    return 1 + by.length;
  }
  // “By value, highest first” is an order and no group.
  const ordered = reader.stem(at) === 'by' ? reader.fieldNamed(at + 1) : undefined;
  const way = ordered ? directionAt(reader, at + 1 + ordered.length) : undefined;
  // Groups stand in the order of their names.
  if (ordered && way && reader.rest.measures.length === 0) {
    reader.rest.sort = [{ field: ordered.value, ...(way.value ? { descending: true } : {}) }];
    return 1 + ordered.length + way.length;
  }
  if (reader.at(at, 'alphabetically', 'alphabetical') > 0) {
    reader.rest.sort = [{ field: 'name' }];
    return 1;
  }
  // “Highest value by stage” is a figure.
  const extreme = reader.at(at, ...EXTREMES.map(([word]) => word));
  const amount = extreme > 0 ? amountNamed(reader, at + extreme) : undefined;
  const behind = at + extreme + (amount?.length ?? 0);
  if (amount && (!reader.word(behind) || reader.at(behind, 'by', 'per', 'of', 'for', 'for each') > 0))
    return 0;
  const words: Record<string, [date: boolean, descending: boolean]> = {
    top: [false, true],
    biggest: [false, true],
    largest: [false, true],
    highest: [false, true],
    best: [false, true],
    smallest: [false, false],
    lowest: [false, false],
    newest: [true, true],
    latest: [true, true],
    recent: [true, true],
    oldest: [true, false],
    earliest: [true, false],
  };
  if (reader.at(at, 'most recent') > 0 && reader.isBefore) return 1 + readOrder(reader, at + 1);
  const given = countAt(reader.word(at + 1));
  const isUnit = reader.dates.groupUnitAt(at + 2) !== undefined;
  if (reader.at(at, 'first') > 0 && given !== undefined && !isUnit && reader.isBefore) {
    reader.rest.limit = given;
    return 2;
  }
  const isLast = reader.at(at, 'last') > 0 && given !== undefined && !isUnit;
  const word = isLast ? 'latest' : (reader.stem(at) ?? '');
  if (!Object.hasOwn(words, word) || !reader.isBefore) return 0;
  const [isDate, descending] = words[word];
  const count = countAt(reader.word(at + 1)) ?? (reader.isBefore ? countAt(reader.word(at - 1)) : undefined);
  const isClosed = reader.object === 'deal' && reader.words.some(({ text }) => ENDED.has(text));
  const field = isDate ? (isClosed ? 'closedOn' : 'createdAt') : mainAmount[reader.object];
  if (field === undefined) return 0;
  const one = count === undefined && !isDate && isSingular(reader, at) ? 1 : count;
  reader.rest.sort = [{ field, ...(descending ? { descending: true } : {}) }];
  if (one !== undefined) reader.rest.limit = one;
  // “Highest value deals” are the highest.
  if (amount && amount.value === field && !amount.state) return extreme + amount.length;
  return countAt(reader.word(at + 1)) === undefined ? 1 : 2;
}

/** “The ten biggest”: the number is read with the word behind it. */
export function readCountBefore(reader: Reader, at: number): number {
  const isCount =
    reader.isBefore &&
    countAt(reader.words[at]) !== undefined &&
    (reader.words[at].number !== undefined || reader.words[at].text.length > 1);
  return isCount &&
    reader.at(at + 1, 'biggest', 'largest', 'newest', 'latest', 'oldest', 'smallest', 'highest', 'lowest') > 0
    ? 1
    : 0;
}

/** “Largest open deal” asks for one. */
export function isSingular(reader: Reader, at: number): boolean {
  const noun = reader.words.slice(at + 1).find(({ stem }) => reader.meanings.object(stem));
  return noun !== undefined && noun.text === noun.stem;
}

/** The rate at which records come to what they are for: the win rate, which is no verb. */
export function readRate(reader: Reader, at: number): number {
  const rate = rates[reader.object];
  const said = rate ? reader.at(at, ...rate.words) : 0;
  if (!rate || said === 0) return 0;
  reader.rest.hasRate = true;
  if (rate.date !== undefined) reader.date = rate.date;
  return said;
}

/** Figures: `how many`, `average value of`, `won value`. */
export function readMeasure(reader: Reader, at: number): number {
  const kinds: readonly (readonly [string, Measure['as']])[] = [
    ['total', 'sum'],
    ['sum of', 'sum'],
    ['sum', 'sum'],
    ['average', 'average'],
    ['mean', 'average'],
    ['avg', 'average'],
    ['median', 'median'],
    ['share of', 'share'],
    ['percentage of', 'share'],
    ['percent of', 'share'],
    ...EXTREMES,
  ];
  const count = reader.at(at, 'how many', 'number of', 'count of', 'number', 'count');
  if (count > 0) {
    reader.rest.measures.push({ as: 'count' });
    return count;
  }
  for (const [words, as] of kinds) {
    const said = reader.at(at, words);
    const field = said > 0 ? amountNamed(reader, at + said) : undefined;
    if (!field) continue;
    reader.rest.measures.push({ as, of: field.value });
    stateBehind(reader, field);
    return said + field.length;
  }
  if (reader.at(at, 'how much') > 0 && mainAmount[reader.object]) {
    reader.rest.measures.push({ as: 'sum', of: mainAmount[reader.object] });
    // Whoever asks how much somebody won asks of what was won.
    for (let next = at + 2; next < reader.words.length; next++) {
      const verb = { win: 'won', won: 'won', sell: 'won', sold: 'won', lose: 'lost', lost: 'lost' }[
        reader.stem(next) ?? ''
      ];
      if (!verb) continue;
      reader.said.push({ condition: { field: 'outcome', is: 'anyOf', value: [verb] }, weight: 1 });
      reader.date = 'closedOn';
      break;
    }
    return 2;
  }
  const amount = amountNamed(reader, at);
  // A value that is compared is a condition, and so is one that is given.
  if (!amount || comparedAt(reader, at + amount.length) || reader.at(at + amount.length, 'is', 'between') > 0)
    return 0;
  if (
    !reader.isBefore &&
    reader.at(at - 1, 'and', 'show', 'showing', 'with', ',') === 0 &&
    reader.rest.measures.length > 0
  )
    return 0;
  // Days are not added up.
  reader.rest.measures.push({ as: amount.value === 'age' ? 'average' : 'sum', of: amount.value });
  stateBehind(reader, amount);
  return amount.length;
}

/** An amount that can be added up: `value`, `won value`, `revenue`, `weighted pipeline`. */
export function amountNamed(
  reader: Reader,
  at: number,
): (Found<string> & { state?: 'open' | 'won' | 'lost' }) | undefined {
  const main = mainAmount[reader.object];
  if (reader.object === 'deal') {
    const nouns: readonly (readonly [string, string, 'open' | 'won' | 'lost'])[] = [
      ['weighted pipeline', 'weighted', 'open'],
      ['pipeline value', 'value', 'open'],
      ['won value', 'value', 'won'],
      ['lost value', 'value', 'lost'],
      ['open value', 'value', 'open'],
      ['expected revenue', 'value', 'open'],
      ['expected sales', 'value', 'open'],
      ['expected turnover', 'value', 'open'],
      ...['days to close', 'time to close', 'days to win', 'time to win', 'sales cycle'].map(
        (words) => [words, 'age', 'won'] as const,
      ),
      ['revenue', 'value', 'won'],
      ['turnover', 'value', 'won'],
      ['sales', 'value', 'won'],
    ];
    for (const [words, value, state] of nouns) {
      const length = reader.at(at, words);
      if (length > 0) return { value, length, state };
    }
    // A pipeline is what is open, unless one is named or told apart by it.
    const isGroup =
      reader.at(at - 1, 'by', 'per', 'then', 'each', 'in', 'and') > 0 || isPipelineNamed(reader, at);
    if (reader.stem(at) === 'pipeline' && !isGroup) return { value: 'value', length: 1, state: 'open' };
  }
  const field = reader.fieldNamed(at);
  const type = field && reader.fieldAt(field.value)?.type;
  if (field && type && (isNumeric(type) || field.value === main)) return field;
  return undefined;
}

/** Whether the word before is part of a pipeline’s name. */
export function isPipelineNamed(reader: Reader, at: number): boolean {
  return reader.meanings.vocabulary.pipelines.some(({ name }) =>
    name
      .toLowerCase()
      .split(' ')
      .map(stemOf)
      .includes(reader.stem(at - 1) ?? ''),
  );
}

/** What is meant by won, lost or open value: the deals that are so. */
export function stateBehind(reader: Reader, { state }: { state?: 'open' | 'won' | 'lost' }): void {
  if (!state) return;
  const condition: Condition = { field: 'outcome', is: 'anyOf', value: [state] };
  const isSaid = reader.said.some((each) => JSON.stringify(each.condition) === JSON.stringify(condition));
  if (!isSaid) reader.said.unshift({ condition, weight: 1 });
  if (state !== 'open') reader.speakOf('closedOn');
}

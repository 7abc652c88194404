import {
  dateParts,
  daysBetweenPath,
  fieldAt,
  fieldsOf,
  labelOfPath,
  objectType,
  type Catalogue,
  type ObjectKey,
  type RecordOf,
} from '../catalogue';
import {
  allOf,
  canOverlap,
  subjectOf,
  type Condition,
  type Grouping,
  type Measure,
  type Question,
  type Sort,
} from '../questions';

/** How an answer is drawn. `grid` is the deal grid of stages and months. */
export const drawings = ['table', 'columns', 'bars', 'line', 'pivot', 'grid'] as const;
export type Drawing = (typeof drawings)[number];

/** A question together with the way its answer is shown: what a view keeps and an address carries. */
export interface Design {
  question: Question;
  draw: Drawing;
  /** Which of the question's measures a chart draws; the first when left out. */
  drawn?: number;
  /** What figures are rounded to. */
  rounding?: 'thousands' | 'millions';
  /** Widths of columns in pixels, by path, where they differ from their field's usual one. */
  widths?: Readonly<Record<string, number>>;
}

export type View = RecordOf<'view'>;
export type List = RecordOf<'list'>;

/** The design a view keeps; undefined when what it keeps cannot be read. */
export function designOf(view: Pick<View, 'design' | 'object'>): Design | undefined {
  try {
    const design = JSON.parse(view.design) as Design;
    return design.question.object === view.object ? design : undefined;
  } catch {
    return undefined;
  }
}

/** Columns a table of each object begins with. */
const usualColumns: Partial<Record<ObjectKey, readonly string[]>> = {
  lead: ['name', 'organisation', 'status', 'interest', 'source', 'budget', 'owner', 'createdAt'],
  contact: ['name', 'account', 'role', 'email', 'phone', 'relationship', 'owner'],
  account: ['name', 'industry', 'city', 'country', 'domain', 'relationship', 'owner'],
  deal: ['name', 'value', 'stage', 'closeOn', 'outcome', 'owner', 'nextStepOn'],
  activity: ['name', 'kind', 'dueOn', 'account', 'deal', 'outcome', 'owner', 'doneAt'],
};

const usualSort: Partial<Record<ObjectKey, readonly Sort[]>> = {
  lead: [{ field: 'createdAt', descending: true }],
  contact: [{ field: 'name' }],
  account: [{ field: 'name' }],
  deal: [{ field: 'closeOn' }],
  activity: [{ field: 'dueOn', descending: true }],
};

/** Columns of what people put on a list, where those are others: lists of activities hold calls to hear. */
const listColumns: Partial<Record<ObjectKey, readonly string[]>> = {
  activity: [
    'name',
    'doneAt',
    'owner',
    'contact',
    'outcome',
    'recording',
    'heardBy',
    'lead',
    'dueOn',
    'result',
  ],
};

/** What is on a list, as a table. */
export function listDesign({ id, object }: { id: number; object: ObjectKey }): Design {
  const plain = plainDesign(object, { field: 'lists', is: 'anyOf', value: [id] });
  const columns = listColumns[object];
  return columns ? { ...plain, question: { ...plain.question, columns } } : plain;
}

/** Everything of an object as a table: what a new view begins with. */
export function plainDesign(object: ObjectKey, where?: Condition): Design {
  const { nameField } = objectType(object);
  return {
    question: {
      version: 1,
      object,
      ...(where ? { where } : {}),
      columns: usualColumns[object] ?? [nameField],
      sort: usualSort[object] ?? [],
    },
    draw: 'table',
  };
}

/** The records that a question asks for, as a table; in its own columns and order where it names them. */
export function tableOf(question: Question): Design {
  const { sort, columns, labels } = question;
  const plain = plainDesign(question.object, question.where);
  return {
    ...plain,
    question: {
      ...plain.question,
      ...subjectOf(question),
      ...(sort ? { sort } : {}),
      ...(columns ? { columns } : {}),
      ...(labels ? { labels } : {}),
    },
  };
}

/** What a column of a question is called: by its own name, or by that of its field. */
export function columnLabel(catalogue: Catalogue, { object, labels }: Question, path: string): string {
  const words = labelOfPath(catalogue, object, path) ?? path;
  return labels?.[path] ?? words.charAt(0).toUpperCase() + words.slice(1);
}

/** The columns a design shows: its own, or the usual ones of its object. */
export function columnsOf({ question }: Design): readonly string[] {
  return question.columns ?? usualColumns[question.object] ?? [objectType(question.object).nameField];
}

/**
 * The records of a design, those of one group together, in the order of the design.
 * @param catalogue given when a record is to come once in each of the groups it is in; else it comes once.
 */
export function recordsIn({ question }: Design, catalogue?: Catalogue): Question {
  const { object, where, columns, sort = [], groups = [] } = question;
  const grouped = groups.map(({ field, by }) => {
    const own = sort.find((each) => each.field === field);
    const each = catalogue !== undefined && canOverlap(catalogue, object, [{ field }]);
    return {
      field,
      ...(by ? { by } : {}),
      ...(each ? { each: true as const } : {}),
      ...(own?.descending ? { descending: true } : {}),
    };
  });
  const kept = sort.filter(
    ({ field, by }) => by !== undefined || !groups.some((each) => each.field === field && !each.by),
  );
  return {
    ...subjectOf(question),
    ...(where ? { where } : {}),
    columns: columns ?? [],
    sort: [...grouped, ...kept],
  };
}

/** The figures of a design: a row a group, the count of its records first, then the design's measures. */
export function figuresIn({ question }: Design, depth = 3): Question {
  const { where, groups = [], measures = [] } = question;
  return {
    ...subjectOf(question),
    ...(where ? { where } : {}),
    groups: groups.slice(0, depth),
    measures: [{ as: 'count' }, ...measures],
  };
}

/** The measure a chart of this design draws; the count when it names none. */
export function drawnMeasure({ question, drawn = 0 }: Design): Measure {
  return question.measures?.[drawn] ?? { as: 'count' };
}

/** Whether two designs say the same, in whatever order their parts are written. */
export function sameDesign(a: Design, b: Design): boolean {
  return canonical(a) === canonical(b);
}

function canonical(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
}

/** A result widened by another question's, narrowed to what both find, or replaced by it. */
export function combined(question: Question, other: Question, how: 'widen' | 'narrow' | 'replace'): Question {
  const { where: mine, asOf: _asOf, ...asked } = question;
  const { where: theirs } = other;
  // Those who are asked about at one moment cannot be found among those of another.
  const rest = { ...asked, ...subjectOf(how === 'replace' ? other : question) };
  const where = {
    // Without conditions a question finds everything, and so does anything widened by it.
    widen: mine && theirs ? joinedBy('any', mine, theirs) : undefined,
    narrow: allOf(mine, theirs),
    replace: theirs,
  }[how];
  return where ? { ...rest, where } : rest;
}

function joinedBy(join: 'any', ...of: Condition[]): Condition {
  return { join, of: of.flatMap((each) => ('join' in each && each.join === join ? each.of : [each])) };
}

/** Whether what another question finds can be put together with what this one does: both ask about one moment. */
export const isCombinable = (question: Question, other: Question): boolean =>
  canonical(question.asOf ?? null) === canonical(other.asOf ?? null);

/** The drawings that make sense for a question; in the deal grid deals are moved, which only those of now can be. */
export function drawingsFor({ object, asOf }: Question): readonly Drawing[] {
  return object === 'deal' && asOf === undefined
    ? drawings
    : drawings.filter((drawing) => drawing !== 'grid');
}

/** How a grouping by a field begins: dates by month. */
export function groupingFor(catalogue: Catalogue, object: ObjectKey, path: string): Grouping {
  const type = fieldAt(catalogue, object, path)?.type;
  return type === 'date' || type === 'dateTime' ? { field: path, by: 'month' } : { field: path };
}

/** The paths of an object's fields and of those behind each of its links, one link deep. */
export function reachablePaths(catalogue: Catalogue, object: ObjectKey): string[] {
  const own = [
    ...fieldsOf(catalogue, object).map(([key]) => key),
    'createdAt',
    'createdBy',
    'updatedAt',
    'lists',
  ];
  const behindLinks = fieldsOf(catalogue, object).flatMap(([key, { to }]) => {
    if (to === undefined || !(to in linkedShown)) return [];
    const target = to as ObjectKey;
    return fieldsOf(catalogue, target).map(([inner]) => `${key}.${inner}`);
  });
  return [...own, ...behindLinks, ...madePaths(catalogue, object)];
}

/** The paths of parts of an object's dates, and of the days from each of them to those behind it. */
function madePaths(catalogue: Catalogue, object: ObjectKey): string[] {
  const isDate = (path: string) =>
    ['date', 'dateTime'].includes(fieldAt(catalogue, object, path)?.type ?? '');
  const dates = ['createdAt', ...fieldsOf(catalogue, object).map(([key]) => key)].filter(isDate);
  const parts = dates.flatMap((date) => dateParts.map((part) => `${date}.${part}`));
  const between = dates.flatMap((from, index) =>
    dates.slice(index + 1).map((to) => daysBetweenPath(from, to)),
  );
  return [...parts, ...between].filter((path) => fieldAt(catalogue, object, path));
}

/** Objects whose fields are offered behind a link to them. */
const linkedShown: Partial<Record<ObjectKey, true>> = {
  lead: true,
  contact: true,
  account: true,
  deal: true,
  person: true,
  stage: true,
};

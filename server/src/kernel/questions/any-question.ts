import fc from 'fast-check';
import {
  canOverlap,
  comparesAmounts,
  comparesFields,
  comparesGroups,
  fieldAt,
  figureOperators,
  isComparable,
  isCountedApart,
  isDated,
  isGroupable,
  isSetType,
  isTextual,
  isNumeric,
  operatorsFor,
  periodUnits,
  relationOf,
  type Catalogue,
  type Condition,
  type Field,
  type Measure,
  type ObjectKey,
  type Operand,
  type Operator,
  type Question,
  type Related,
  type Sort,
} from '@zawn/core';

/** Questions of every kind about the demo company, for holding one reader to another. */

export const asked = ['lead', 'contact', 'account', 'deal', 'activity'] as const;
export type Asked = (typeof asked)[number];

/** Fields asked about: of every type, the organisation's own and those behind links among them. */
const paths: Record<Asked, string[]> = {
  deal: 'name value weighted daysInStage stale needsAttention probability closeOn closedOn nextStepOn outcome lossReason lostTo source owner stage createdAt stageSince tags lists x_siteVisit x_installBy x_surveyCost x_engineer account.country account.industry account.tags account.lists account.x_stations stage.probability stage.name owner.name owner.active contact.account.city contact.x_language lead.source x_engineer.role account.owner.name createdBy createdAt.weekday createdAt.hour closeOn.month account.createdAt.day days(createdAt,closedOn) days(closeOn,closedOn) days(account.createdAt,createdAt)'.split(
    ' ',
  ),
  lead: 'name organisation email status source budget timeFrame country owner createdAt convertedAt tags x_sites deal.value account.name account.x_terrain owner.role owner.team.name description createdAt.month convertedAt.weekday days(createdAt,convertedAt)'.split(
    ' ',
  ),
  contact:
    'name role email account relationship owner tags x_language account.industry account.x_serviceUntil account.parent.name createdAt lists'.split(
      ' ',
    ),
  account:
    'name domain industry city country relationship owner tags lists x_stations x_serviceUntil x_terrain createdAt updatedAt owner.email id'.split(
      ' ',
    ),
  activity:
    'name kind dueOn dueAt priority outcome minutes doneAt doneBy owner result deal.value deal.outcome account.x_stations contact.name lead.status createdAt dueOn.weekday doneAt.hour days(dueOn,doneAt) days(deal.createdAt,doneAt)'.split(
      ' ',
    ),
};

/** Relations asked along, each with the to-one path it begins behind. */
const relations: Record<Asked, [relation: string, via?: string][]> = {
  deal: [
    ['activity.deal'],
    ['note.deal'],
    ['stageStay.deal'],
    ['loggedChange.deal'],
    ['activity.account', 'account'],
    ['contact.account', 'account'],
  ],
  lead: [['loggedChange.lead'], ['activity.lead'], ['note.lead'], ['deal.lead']],
  contact: [['deal.contact'], ['activity.contact'], ['deal.account', 'account']],
  account: [['activity.account'], ['deal.account'], ['contact.account'], ['lead.account']],
  activity: [
    ['activity.deal', 'deal'],
    ['deal.account', 'account'],
  ],
};

/** What is asked of related records. */
const innerPaths: Partial<Record<ObjectKey, string[]>> = {
  activity: ['kind', 'doneAt', 'outcome', 'owner'],
  deal: ['outcome', 'value', 'closeOn', 'stage.name', 'tags', 'x_surveyCost'],
  contact: ['name', 'relationship', 'x_language', 'email'],
  lead: ['status', 'budget'],
  stageStay: ['stage', 'moved', 'became', 'days', 'enteredAt', 'leftAt', 'stage.name'],
  note: ['body', 'createdAt'],
  loggedChange: [
    'field',
    'kind',
    'went',
    'days',
    'personAfter',
    'stageBefore',
    'stageAfter.name',
    'accountAfter',
    'contactBefore.name',
    'at',
  ],
};

const words = fc.constantFrom(
  'a',
  'SEA',
  'harbour',
  'x',
  '%',
  '_',
  'Tarnwick',
  '',
  'é',
  'É',
  'data service',
  "o'",
  '\\',
);
const spans = fc.oneof(
  fc.record(
    {
      unit: fc.constantFrom(...periodUnits),
      offset: fc.integer({ min: -9, max: 3 }),
      toDate: fc.constant(true as const),
      yearBefore: fc.constant(true as const),
    },
    { requiredKeys: ['unit', 'offset'] },
  ),
  fc.record({
    direction: fc.constantFrom('last', 'next'),
    count: fc.integer({ min: 1, max: 90 }),
    unit: fc.constantFrom('day', 'week', 'month', 'quarter', 'year'),
  }),
);
const days = fc.oneof(
  fc.integer({ min: -800, max: 300 }).map((count) => ({ days: count })),
  fc.constantFrom(
    '2026-03-29',
    '2026-10-25',
    '2026-11-01',
    '2024-02-29',
    '2028-02-29',
    '2025-12-31',
    '2026-04-01',
  ),
);
const numbers = fc.oneof(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 100_000, max: 9_000_000 }));

function some<T>(of: readonly T[]): fc.Arbitrary<T[]> {
  return of.length > 0
    ? fc.subarray([...of], { minLength: 1, maxLength: Math.min(4, of.length) })
    : fc.constant([]);
}

/** A value that fits an operator on a field. */
function operandFor(is: Operator, field: Field): fc.Arbitrary<Operand | undefined> {
  if (is === 'isEmpty' || is === 'isNotEmpty') return fc.constant(undefined);
  if (is === 'in') return spans;
  if (is === 'since')
    return fc.record({ unit: fc.constantFrom(...periodUnits), offset: fc.integer({ min: -9, max: 1 }) });
  switch (field.type) {
    case 'date':
    case 'dateTime':
      return is === 'between' ? fc.tuple(days, days) : days;
    case 'choice':
    case 'choices':
      return some(field.choices?.map(({ key }) => key) ?? []);
    case 'tags':
      return some(['framework', 'reference', 'public tender', 'replacement', 'newsletter', 'nowhere']);
    case 'lists':
      return some([1, 2, 99]);
    case 'link':
      return some([...Array.from({ length: 20 }, (_, index) => index + 1), '@me', '@myTeam']);
    case 'country':
      return some(['GB', 'SE', 'DE', 'FR']);
    case 'yesNo':
      return fc.boolean();
    case 'number':
    case 'percent':
    case 'money':
      return is === 'between' ? fc.tuple(numbers, numbers) : numbers;
    default:
      return words;
  }
}

/** Another field that this one can be compared with, or an amount in a currency of its own; else what fits it anyway. */
function othersFor(
  catalogue: Catalogue,
  object: ObjectKey,
  is: Operator,
  path: string,
  known: readonly string[],
): fc.Arbitrary<Operand | undefined> {
  const field = fieldAt(catalogue, object, path) as Field;
  const others = known.filter((each) => isComparable(field, fieldAt(catalogue, object, each) as Field));
  if (comparesGroups(is, field.type) && object in paths) {
    const bys = known.filter((each) => {
      const { type } = fieldAt(catalogue, object, each) as Field;
      return isGroupable(type) && !isSetType(type) && type !== 'dateTime' && !isTextual(type);
    });
    const figure = fc.constantFrom(...(['average', 'median', 'least', 'most'] as const));
    const by = fc.option(fc.constantFrom(...bys), { nil: undefined });
    return fc.record({ figure, by }).map(({ by: one, ...rest }) => (one ? { ...rest, by: one } : rest));
  }
  if (comparesAmounts(is, field.type))
    return fc.record({ amount: numbers, currency: fc.constantFrom('GBP', 'EUR', 'SEK', 'XXX') });
  return comparesFields(is, field.type) && others.length > 0
    ? fc.constantFrom(...others).map((other) => ({ field: other }))
    : operandFor(is, field);
}

/** Conditions on an object's fields and on the records that link to it, nested. */
function conditionFor(catalogue: Catalogue, object: ObjectKey, depth: number): fc.Arbitrary<Condition> {
  const known = depth > 0 && object in paths ? paths[object as Asked] : (innerPaths[object] ?? ['createdAt']);
  const test = fc.constantFrom(...known).chain((path) => {
    const field = fieldAt(catalogue, object, path) as Field;
    return fc
      .constantFrom(...operatorsFor(field.type))
      .chain((is) =>
        fc
          .oneof(
            { weight: 4, arbitrary: operandFor(is, field) },
            { weight: 1, arbitrary: othersFor(catalogue, object, is, path, known) },
          )
          .map((value): Condition =>
            value === undefined ? { field: path, is } : { field: path, is, value },
          ),
      );
  });
  if (depth === 0) return test;
  const related = relatedFor(catalogue, object as Asked);
  return fc.letrec<{ condition: Condition }>((tie) => ({
    condition: fc.oneof(
      { maxDepth: 3, withCrossShrink: true },
      { weight: 5, arbitrary: test },
      { weight: 2, arbitrary: related },
      {
        weight: 4,
        arbitrary: fc.record({
          join: fc.constantFrom('all', 'any', 'none'),
          of: fc.array(tie('condition'), { minLength: 1, maxLength: 3 }),
        }),
      },
    ),
  })).condition;
}

function relatedFor(catalogue: Catalogue, object: Asked): fc.Arbitrary<Related> {
  return fc.constantFrom(...relations[object]).chain(([related, via]) => {
    const hub = via === undefined ? object : (fieldAt(catalogue, object, via)?.to as ObjectKey);
    const relation = relationOf(catalogue, hub, related);
    if (!relation) throw new Error(`No relation ${related}`);
    const figures: Measure[] = [{ as: 'count' }];
    if (relation.object === 'deal')
      figures.push(
        { as: 'sum', of: 'value' },
        { as: 'most', of: 'value' },
        { as: 'average', of: 'probability' },
      );
    const inner = conditionFor(catalogue, relation.object, 0);
    const dates = ['createdAt', 'closedOn', 'doneAt'].filter((path) => {
      const field = fieldAt(catalogue, relation.object, path);
      return field !== undefined && isDated(field.type);
    });
    return fc
      .record({
        where: fc.option(inner, { nil: undefined }),
        figure: fc.constantFrom(...figures),
        is: fc.constantFrom(...figureOperators),
        pick: fc.option(
          fc.record(
            { by: fc.constantFrom(...dates), first: fc.constant(true as const) },
            { requiredKeys: ['by'] },
          ),
          { nil: undefined, freq: 2 },
        ),
        isNone: fc.boolean(),
        low: fc.oneof(fc.integer({ min: 0, max: 4 }), numbers),
        more: numbers,
      })
      .map(({ where, figure, is, pick, isNone, low, more }): Related => {
        const begun = { related, ...(via === undefined ? {} : { via }), ...(where ? { where } : {}) };
        if (pick) return { ...begun, pick, is: isNone ? 'is' : 'atLeast', value: isNone ? 0 : 1 };
        return { ...begun, figure, is, value: is === 'between' ? [low, low + more] : low };
      });
  });
}

/** Any question for records of an object. */
export function anyRecordsQuestion(catalogue: Catalogue, object: Asked): fc.Arbitrary<Question> {
  const typeOf = (path: string) => (fieldAt(catalogue, object, path) as Field).type;
  const sort = fc
    .record(
      {
        field: fc.constantFrom(...paths[object]),
        descending: fc.boolean(),
        by: fc.constantFrom(...periodUnits),
        each: fc.constant(true as const),
      },
      { requiredKeys: ['field', 'descending'] },
    )
    .map(({ each, ...rest }): Sort => {
      const isOneOfSeveral = each && canOverlap(catalogue, object, [rest]) && isGroupable(typeOf(rest.field));
      return isOneOfSeveral ? { ...rest, each } : rest;
    });
  return fc.record({
    version: fc.constant(1 as const),
    object: fc.constant(object),
    where: conditionFor(catalogue, object, 1),
    sort: fc.uniqueArray(sort, { maxLength: 3, selector: ({ field }) => field }),
  });
}

/** Any question for figures of an object. */
export function anyFiguresQuestion(catalogue: Catalogue, object: Asked): fc.Arbitrary<Question> {
  const typeOf = (path: string) => (fieldAt(catalogue, object, path) as Field).type;
  const measurable = paths[object].filter((path) => isNumeric(typeOf(path)) && path !== 'id');
  const measure: fc.Arbitrary<Measure> = fc.oneof(
    fc.constant<Measure>({ as: 'count' }),
    fc
      .record({
        where: conditionFor(catalogue, object, 1),
        as: fc.constantFrom(
          'count',
          ...(measurable.length > 0
            ? (['sum', 'average', 'median', 'percentile', 'least', 'most'] as const)
            : []),
        ),
        of: fc.constantFrom(...measurable, undefined),
        at: fc.integer({ min: 1, max: 99 }),
      })
      .map(({ where, as, of, at }): Measure => {
        if (as === 'count' || of === undefined) return { where, as: 'count' };
        return { where, as, of, ...(as === 'percentile' ? { at } : {}) };
      }),
    fc.record({
      as: fc.constant('distinct' as const),
      of: fc.constantFrom(...paths[object].filter((path) => isCountedApart(typeOf(path)))),
      where: conditionFor(catalogue, object, 0),
    }),
    fc.constant<Measure>({ as: 'share' }),
    ...(measurable.length > 0
      ? [
          fc.record<Measure, 'as' | 'of'>(
            {
              as: fc.constantFrom('sum', 'average', 'median', 'least', 'most', 'share'),
              of: fc.constantFrom(...measurable),
              money: fc.constant('own' as const),
            },
            { requiredKeys: ['as', 'of'] },
          ),
        ]
      : []),
  );
  const grouping = fc.record({
    field: fc.constantFrom(...paths[object].filter((path) => isGroupable(typeOf(path)) && path !== 'id')),
    by: fc.constantFrom(...periodUnits),
  });
  const first = fc.record({
    measure: fc.nat(3),
    descending: fc.boolean(),
    count: fc.integer({ min: 1, max: 4 }),
  });
  return fc
    .record({
      version: fc.constant(1 as const),
      object: fc.constant(object),
      where: conditionFor(catalogue, object, 1),
      groups: fc.uniqueArray(grouping, { maxLength: 2, selector: ({ field }) => field }),
      // One is always there: a figure under a condition that lost a part is left out.
      measures: fc.array(measure, { maxLength: 3 }).map((some): Measure[] => [{ as: 'count' }, ...some]),
      first: fc.option(first, { nil: undefined }),
    })
    .map(({ first: few, ...question }): Question => {
      if (!few || question.groups.length !== 1) return question;
      const measure = few.measure % question.measures.length;
      return question.measures[measure].as === 'share'
        ? question
        : { ...question, first: { ...few, measure } };
    });
}

import fc from 'fast-check';
import { builtIn, type AnyRecord, type FieldValue } from '../../kernel/catalogue';
import { stoodBefore, type PastChange, type RecordPast } from '../../kernel/changes/as-it-stood';
import {
  fieldsThen,
  judgedToday,
  metThen,
  movementsOf,
  movementSteps,
  type Movement,
  type MovementSpan,
} from './movement';

const moment = (n: number) => `2026-11-${String(n + 1).padStart(2, '0')}T12:00:00.000Z`;
type Values = Record<string, FieldValue>;
const first: Values = {
  outcome: 'open',
  value: 100,
  currency: 'GBP',
  owner: 1,
  closeOn: '2026-12-01',
  stage: 1,
};

/** What is done to a deal, one thing a day. */
type Deed = { set: Values } | 'delete' | 'restore';

/** Plays a history from its creation: the record at the end of each day, and the log of it. */
function play(id: number, created: number, deeds: readonly Deed[]) {
  let record = { id, version: 1, createdAt: '', createdBy: 1, updatedAt: '', ...first } as AnyRecord;
  let isDeleted = false;
  const changes: PastChange[] = [
    {
      record: id,
      unit: created,
      at: moment(created),
      person: 1,
      kind: 'created',
      field: null,
      old: null,
    },
  ];
  const copies: (AnyRecord | undefined)[] = [];
  const copy = (day: number) => (copies[day] = isDeleted ? undefined : record);
  copy(created);
  for (const [index, deed] of deeds.entries()) {
    const day = created + index + 1;
    const log = (kind: PastChange['kind'], field: string | null = null) =>
      changes.push({
        record: id,
        unit: day,
        at: moment(day),
        person: 2,
        kind,
        field,
        old: field === null ? null : record[field],
      });
    if (deed === 'delete' && !isDeleted) {
      log('removed');
      isDeleted = true;
    } else if (deed === 'restore' && isDeleted) {
      log('restored');
      isDeleted = false;
    } else if (typeof deed === 'object' && !isDeleted) {
      for (const [field, value] of Object.entries(deed.set))
        if (record[field] !== value) log('changed', field);
      record = { ...record, ...deed.set };
    }
    copy(day);
  }
  return { now: record, isDeleted, changes, copies };
}

const deed = fc.oneof(
  fc.constant<Deed>('delete'),
  fc.constant<Deed>('restore'),
  fc
    .record(
      {
        outcome: fc.constantFrom('open', 'won', 'lost'),
        value: fc.nat(5).map((n) => n * 100),
        currency: fc.constantFrom('GBP', 'EUR'),
        owner: fc.constantFrom(1, 2, 3),
        closeOn: fc.constantFrom('2026-12-01', '2027-02-01'),
        stage: fc.constantFrom(1, 2),
      },
      { requiredKeys: [] },
    )
    .map((set): Deed => ({ set: set })),
);
const history = fc.tuple(fc.nat(4), fc.array(deed, { maxLength: 12 }));

const rules = {
  isIn: (deal: AnyRecord) => deal.outcome === 'open' && String(deal.closeOn) < '2027-01-01',
  keyOf: (deal: AnyRecord) => deal.owner,
};
/** The value of a deal when a euro is worth so much. */
const atRate = (rate: number) => (deal: AnyRecord) =>
  Number(deal.value) * (deal.currency === 'EUR' ? rate : 1);
const whole = (end: string): MovementSpan => ({
  from: '2026-11-01',
  end,
  atStart: atRate(2),
  atEnd: atRate(3),
});
const since =
  (from: string, until?: string) =>
  ({ changes, ...rest }: ReturnType<typeof play>): RecordPast =>
    stoodBefore({ ...rest, changes: changes.filter(({ at }) => at > from) }, until);
const sums = ({ start, steps, end }: Movement) => [
  movementSteps.reduce((sum, step) => sum + steps[step].value, start.value),
  end.value,
];

describe('a record as it stood', () => {
  it('is what was there, at every moment of any history', () => {
    fc.assert(
      fc.property(history, ([created, deeds]) => {
        const { now, isDeleted, changes, copies } = play(1, created, deeds);
        for (let day = 0; day <= created + deeds.length; day += 1) {
          const later = changes.filter(({ at }) => at > moment(day));
          expect(stoodBefore({ now, isDeleted, changes: later }).before).toEqual(copies[day]);
        }
      }),
    );
  });

  it('is told step by step, what was written together as one', () => {
    const { now, isDeleted, changes } = play(1, 0, [{ set: { value: 300, owner: 2 } }, 'delete']);
    const { before, steps } = stoodBefore({ now, isDeleted, changes });
    expect(before).toBeUndefined();
    expect(steps.map(({ fields, after }) => [[...fields].sort(), after?.value])).toEqual([
      [[], 100],
      [['owner', 'value'], 300],
      [[], undefined],
    ]);
  });
});

describe('a movement', () => {
  it('adds up, of every group, whatever happened', () => {
    fc.assert(
      fc.property(fc.array(history, { maxLength: 6 }), fc.nat(8), fc.nat(8), (all, start, length) => {
        const played = all.map(([created, deeds], index) => play(index + 1, created, deeds));
        const [from, to] = [moment(start), moment(start + length)];
        const movements = movementsOf(played.map(since(from, to)), [], [whole(to)], rules);
        expect(movements).toEqual(movementsOf(played.map(since(from)), [], [whole(to)], rules));
        for (const movement of movements) {
          const [come, end] = sums(movement);
          expect(come).toBe(end);
          const there = (day: number) =>
            played
              .map(({ copies }) => copies[Math.min(day, copies.length - 1)])
              .filter(
                (deal): deal is AnyRecord =>
                  deal !== undefined && rules.isIn(deal) && deal.owner === movement.key,
              );
          expect(movement.start.count).toBe(there(start).length);
          expect(movement.start.value).toBe(there(start).reduce((sum, deal) => sum + atRate(2)(deal), 0));
          expect(movement.end.value).toBe(
            there(start + length).reduce((sum, deal) => sum + atRate(3)(deal), 0),
          );
        }
      }),
    );
  });

  it('adds up in a row of spans, each of which begins as the one before ended', () => {
    fc.assert(
      fc.property(
        fc.array(history, { maxLength: 6 }),
        fc.nat(8),
        fc.array(fc.nat(4)),
        (all, start, lengths) => {
          const played = all.map(([created, deeds], index) => play(index + 1, created, deeds));
          const from = moment(start);
          const spans: MovementSpan[] = [0, ...lengths].map((_, index) => ({
            from: String(index),
            end: moment(start + lengths.slice(0, index).reduce((sum, length) => sum + length, 0)),
            atStart: atRate(2 + index),
            atEnd: atRate(3 + index),
          }));
          const [still] = [play(99, 0, []).now];
          const steady = [{ ...still, currency: 'EUR' }];
          const movements = movementsOf(played.map(since(from)), steady, spans, {
            ...rules,
            keyOf: (_, span) => span.from,
          });
          expect(movements.map(({ key }) => key)).toEqual(spans.map((span) => span.from));
          for (const [index, movement] of movements.entries()) {
            const [come, end] = sums(movement);
            expect(come).toBe(end);
            if (index > 0) expect(movement.start).toEqual(movements[index - 1].end);
          }
          // One span over all of them starts and ends alike.
          const last = spans[spans.length - 1];
          const [once] = movementsOf(played.map(since(from)), steady, [{ ...last, atStart: atRate(2) }], {
            ...rules,
            keyOf: () => null,
          });
          expect([movements[0].start, movements.at(-1)?.end]).toEqual([once.start, once.end]);
        },
      ),
    );
  });

  it('tells each thing that can happen by its name, with from and to', () => {
    const told = (deeds: Deed[], by: 'owner' | 'all' = 'all') => {
      const of = { ...rules, ...(by === 'all' ? { keyOf: () => null } : {}) };
      const played = since(moment(0))(play(7, 0, deeds));
      return movementsOf([played], [], [whole(moment(30))], of).flatMap(({ key, steps }) =>
        movementSteps.flatMap((step) =>
          steps[step].entries.map(({ value, from, to }) =>
            [by === 'owner' ? key : '', step, value, from ?? '', to ?? ''].join(' ').trim(),
          ),
        ),
      );
    };
    expect(told([{ set: { value: 300 } }])).toEqual(['raised 200 100 300']);
    expect(told([{ set: { value: 40 } }])).toEqual(['cut -60 100 40']);
    expect(told([{ set: { closeOn: '2027-02-01' } }])).toEqual(['pushedOut -100 2026-12-01 2027-02-01']);
    expect(told([{ set: { closeOn: '2027-02-01' } }, { set: { closeOn: '2026-12-01' } }])).toEqual([
      'pulledIn 100 2027-02-01 2026-12-01',
      'pushedOut -100 2026-12-01 2027-02-01',
    ]);
    // Won at another value than it stood at: the difference is told apart.
    expect(told([{ set: { outcome: 'won', value: 150 } }])).toEqual(['raised 50 100 150', 'won -150']);
    expect(told([{ set: { outcome: 'lost' } }, { set: { outcome: 'open' } }])).toEqual([
      'reopened 100',
      'lost -100',
    ]);
    expect(told([{ set: { owner: 2 } }])).toEqual([]);
    expect(told([{ set: { owner: 2 } }], 'owner')).toEqual(['1 handedOut -100', '2 handedIn 100']);
    expect(told(['delete', 'restore'])).toEqual(['restored 100', 'deleted -100']);
    expect(told([{ set: { currency: 'EUR' } }])).toEqual(['raised 100 100 100', 'currency 100']);
  });

  it('counts what stood still as well, and what the rates did to it', () => {
    const [still] = [play(9, 0, []).now];
    const [movement] = movementsOf(
      [],
      [still, { ...still, id: 10, currency: 'EUR' }],
      [whole(moment(5))],
      rules,
    );
    expect([movement.start, movement.end]).toEqual([
      { value: 300, count: 2 },
      { value: 400, count: 2 },
    ]);
    expect(movement.steps.currency.entries).toEqual([{ deal: 10, value: 100, at: moment(5), person: null }]);
  });

  it('says which conditions the log cannot tell, and judges them and the others one by one', () => {
    const own = { field: 'owner', is: 'anyOf', value: [1] } as const;
    const others = [
      { field: 'account.country', is: 'anyOf', value: ['SE'] },
      { field: 'nextStepOn', is: 'isEmpty' },
      { field: 'lists', is: 'anyOf', value: [1] },
      { related: 'activity.deal', is: 'is', value: 0 },
    ] as const;
    const both = { join: 'all', of: [own, { join: 'none', of: others }] } as const;
    expect(judgedToday(builtIn, both)).toEqual(others);
    expect(fieldsThen(builtIn, both)).toEqual(['owner']);
    for (const met of [[], [own], [own, others[2]], [others[0]]])
      expect(metThen(both, (part) => (met as unknown[]).includes(part))).toBe(
        met.length === 1 && met[0] === own,
      );
    expect(metThen({ join: 'any', of: [] }, () => true)).toBe(false);
    expect(metThen({ join: 'any', of: [own, others[0]] }, (part) => part === others[0])).toBe(true);
  });
});

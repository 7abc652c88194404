import fc from 'fast-check';
import { Assigner, nextInTurn, type AssignmentRule, type Turn } from '.';
import { type Condition } from '../../kernel/questions';

const here: (person: number) => boolean = () => true;
const AT = '2026-11-19T09:30:00.000Z';

/** Takes turns so many times. */
function take(times: number, people: number[], isHere = here, turns: readonly Turn[] = []) {
  const got: number[] = [];
  let now = turns;
  for (let index = 0; index < times; index += 1) {
    const next = nextInTurn(people, now, isHere, new Date(Date.UTC(2026, 0, 1, 0, index)).toISOString());
    if (!next) break;
    got.push(next.person);
    now = next.turns;
  }
  return { got, turns: now };
}

describe('turns', () => {
  it('go round', () => {
    expect(take(5, [3, 1, 2]).got).toEqual([3, 1, 2, 3, 1]);
  });

  it('are fair over time, whoever is there', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(50), { minLength: 1, maxLength: 8 }), fc.nat(60), (people, times) => {
        const { got } = take(times, people);
        const counts = people.map((person) => got.filter((each) => each === person).length);
        expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(1);
      }),
    );
  });

  it('pass over who is away, and do not flood them when they are back', () => {
    const away = take(20, [1, 2, 3], (person) => person !== 3);
    expect(away.got).not.toContain(3);
    const back = take(6, [1, 2, 3], here, away.turns);
    expect(back.got.filter((person) => person === 3)).toHaveLength(2);
  });

  it('do not flood who joins later either', () => {
    const { turns } = take(30, [1, 2]);
    expect(take(6, [1, 2, 9], here, turns).got.filter((person) => person === 9)).toHaveLength(2);
  });

  it('are nobody’s when all are away', () => {
    expect(nextInTurn([1, 2], [], () => false, AT)).toBeUndefined();
    expect(nextInTurn([], [], here, AT)).toBeUndefined();
  });
});

describe('rules', () => {
  const where: Condition = { field: 'country', is: 'anyOf', value: ['SE'] };
  const rules: AssignmentRule[] = [
    { id: 1, name: 'Sweden', where, gives: { to: 'person', person: 5 } },
    { id: 2, name: 'The rest', gives: { to: 'turns', people: [6, 7] } },
  ];
  const assigner = (isHere: (person: number) => boolean = here) => new Assigner(rules, new Map(), isHere, 99);

  it('are tried in their order; the first that is met decides', () => {
    const assign = assigner();
    expect(assign.next(() => true, AT)).toMatchObject({ owner: 5, rule: { id: 1 } });
    expect(assign.next(() => false, AT)).toMatchObject({ owner: 6, rule: { id: 2 } });
    expect(assign.next(() => false, AT)).toMatchObject({ owner: 7, rule: { id: 2 } });
    expect(assign.changedTurns.map(([rule]) => rule)).toEqual([2]);
  });

  it('whose people are away are passed over, and the default owner gets what is left', () => {
    expect(assigner((person) => person !== 5).next(() => true, AT)).toMatchObject({ owner: 6 });
    expect(assigner(() => false).next(() => true, AT)).toEqual({ owner: 99, rule: null });
  });
});

import {
  togetherOf,
  upkeepBases,
  upkeepKinds,
  upkeepQuestion,
  type FiguresAnswer,
  type Question,
  type UpkeepBase,
  type UpkeepCounts,
} from '@zawn/core';

const byOwner = (question: Question): Question => ({
  ...question,
  groups: [{ field: 'owner' }],
  measures: [{ as: 'count' }],
});

/** Everything that has to be asked: the records of each base, then what is wrong with them, by their owner. */
export const upkeepQuestions: readonly Question[] = [
  ...upkeepBases.map((base) => byOwner(upkeepQuestion(base))),
  ...upkeepKinds.map(({ of, where }) => byOwner(upkeepQuestion(of, where))),
];

export interface UpkeepOfAll {
  all: UpkeepCounts;
  byOwner: ReadonlyMap<number, UpkeepCounts>;
  /** Kinds that could not be counted, as something they ask about is not seen. */
  unseen: ReadonlySet<string>;
}

/** The counts in the answers to these questions. A kind of which a part was left out is counted for nobody. */
export function countsIn(answers: readonly FiguresAnswer[]): UpkeepOfAll {
  const unseen = new Set(
    upkeepKinds.filter((_, at) => answers[upkeepBases.length + at].leftOut.length > 0).map(({ key }) => key),
  );
  const counts = new Map<number, { bases: Record<UpkeepBase, number>; wrong: Record<string, number> }>();
  const of = (owner: number) => {
    const known = counts.get(owner) ?? {
      bases: Object.fromEntries(upkeepBases.map((base) => [base, 0])) as Record<UpkeepBase, number>,
      wrong: {},
    };
    counts.set(owner, known);
    return known;
  };
  const each = (at: number, take: (owner: number, count: number) => void) => {
    for (const { keys, figures } of answers[at].rows) take(Number(keys[0]), figures[0] ?? 0);
  };
  for (const [at, base] of upkeepBases.entries())
    each(at, (owner, count) => {
      of(owner).bases[base] = count;
    });
  for (const [at, { key }] of upkeepKinds.entries())
    if (!unseen.has(key))
      each(upkeepBases.length + at, (owner, count) => {
        of(owner).wrong[key] = count;
      });
  return { all: togetherOf([...counts.values()]), byOwner: counts, unseen };
}

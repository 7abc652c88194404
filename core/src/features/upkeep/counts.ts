import { type Question } from '../../kernel/questions';
import { type FiguresAnswer } from '../../kernel/questions/api';
import { upkeepBases, upkeepQuestion, type UpkeepBase, type UpkeepKind } from './kinds';
import { togetherOf, type UpkeepCounts } from './readiness';

const byOwner = (question: Question): Question => ({
  ...question,
  groups: [{ field: 'owner' }],
  measures: [{ as: 'count' }],
});

/** Everything that has to be asked: the records of each base, then what is wrong with them, by their owner. */
export const upkeepQuestions = (kinds: readonly UpkeepKind[]): Question[] => [
  ...upkeepBases.map((base) => byOwner(upkeepQuestion(base))),
  ...kinds.map(({ of, where }) => byOwner(upkeepQuestion(of, where))),
];

/** Questions that are answered together. */
const TOGETHER = 8;

/** Questions in parts, each of which is asked at once: several parts are answered beside each other. */
export const inParts = (questions: readonly Question[]): Question[][] =>
  Array.from({ length: Math.ceil(questions.length / TOGETHER) }, (_, part) =>
    questions.slice(part * TOGETHER, (part + 1) * TOGETHER),
  );

export interface UpkeepOfAll {
  all: UpkeepCounts;
  byOwner: ReadonlyMap<number, UpkeepCounts>;
  /** Kinds that could not be counted, as something they ask about is not seen. */
  unseen: ReadonlySet<string>;
}

/** The counts in the answers to these questions. A kind of which a part was left out is counted for nobody. */
export function countsIn(kinds: readonly UpkeepKind[], answers: readonly FiguresAnswer[]): UpkeepOfAll {
  const unseen = new Set(
    kinds.filter((_, at) => answers[upkeepBases.length + at].leftOut.length > 0).map(({ key }) => key),
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
  for (const [at, { key }] of kinds.entries())
    if (!unseen.has(key))
      each(upkeepBases.length + at, (owner, count) => {
        of(owner).wrong[key] = count;
      });
  return { all: togetherOf(kinds, [...counts.values()]), byOwner: counts, unseen };
}

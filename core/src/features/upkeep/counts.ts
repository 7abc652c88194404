import { type Question } from '../../kernel/questions';
import { type FiguresAnswer } from '../../kernel/questions/api';
import { upkeepBases, upkeepQuestion, type UpkeepBase, type UpkeepKind } from './kinds';
import { togetherOf, type UpkeepCounts } from './readiness';

/** What is asked in one question: how many records a base has, and of how many of them each of these kinds is true. */
export interface UpkeepAsked {
  of: UpkeepBase;
  kinds: readonly UpkeepKind[];
  question: Question;
}

/** Kinds that are counted in one question at most: the records are gone through once for all of them. */
const TOGETHER = 15;

function askedOf(of: UpkeepBase, kinds: readonly UpkeepKind[]): UpkeepAsked {
  const measures = [{ as: 'count' as const }, ...kinds.map(({ where }) => ({ as: 'count' as const, where }))];
  return { of, kinds, question: { ...upkeepQuestion(of), groups: [{ field: 'owner' }], measures } };
}

/** Everything that has to be asked, by the owner of the records. */
export const upkeepQuestions = (kinds: readonly UpkeepKind[]): UpkeepAsked[] =>
  upkeepBases.flatMap((of) => {
    const own = kinds.filter((kind) => kind.of === of);
    const parts = Math.max(1, Math.ceil(own.length / TOGETHER));
    return Array.from({ length: parts }, (_, part) =>
      askedOf(of, own.slice(part * TOGETHER, (part + 1) * TOGETHER)),
    );
  });

export interface UpkeepOfAll {
  all: UpkeepCounts;
  byOwner: ReadonlyMap<number, UpkeepCounts>;
  /** Kinds that could not be counted, as something they ask about is not seen. */
  unseen: ReadonlySet<string>;
}

interface Counted {
  bases: Record<UpkeepBase, number>;
  wrong: Record<string, number>;
}

/** The counts in the answers to these questions. A kind of which a part was left out is counted for nobody. */
export function countsIn(asked: readonly UpkeepAsked[], answers: readonly FiguresAnswer[]): UpkeepOfAll {
  const unseen = new Set<string>();
  const counts = new Map<number, Counted>();
  const of = (owner: number) => {
    const known = counts.get(owner) ?? {
      bases: Object.fromEntries(upkeepBases.map((base) => [base, 0])) as Record<UpkeepBase, number>,
      wrong: {},
    };
    counts.set(owner, known);
    return known;
  };
  for (const [at, { of: base, kinds }] of asked.entries()) {
    const { rows, leftOut } = answers[at];
    if (leftOut.some((part) => part.at === 'where')) for (const { key } of kinds) unseen.add(key);
    for (const { keys, figures } of rows) {
      const { bases, wrong } = of(Number(keys[0]));
      const [all, ...each] = figures;
      bases[base] = all ?? 0;
      for (const [index, { key }] of kinds.entries()) {
        const count = each[index];
        if (count === null) unseen.add(key);
        else if (count > 0) wrong[key] = count;
      }
    }
  }
  for (const { wrong } of counts.values()) for (const key of unseen) delete wrong[key];
  const kinds = asked.flatMap((each) => each.kinds);
  return { all: togetherOf(kinds, [...counts.values()]), byOwner: counts, unseen };
}

/** The kinds that something is wrong in, among those that can be counted. */
export const stillWrong = (kinds: readonly UpkeepKind[], { all, unseen }: UpkeepOfAll): UpkeepKind[] =>
  kinds.filter(({ key, of }) => !unseen.has(key) && all.bases[of] > 0 && (all.wrong[key] ?? 0) > 0);

/** Kinds in the order of how many records they are true of, most first. */
export const worstFirst = (counts: UpkeepCounts, kinds: readonly UpkeepKind[]): UpkeepKind[] =>
  kinds.toSorted((a, b) => (counts.wrong[b.key] ?? 0) - (counts.wrong[a.key] ?? 0));

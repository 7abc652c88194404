import { upkeepBases, type UpkeepBase, type UpkeepKind } from './kinds';

/** How many records there are of each base, and how many something is wrong with, by the key of the kind. */
export interface UpkeepCounts {
  bases: Readonly<Record<UpkeepBase, number>>;
  wrong: Readonly<Record<string, number>>;
}

/**
 * How far what is on file can be reported on: each kind asks one thing of every record of its base, and the share of
 * these that hold is the readiness. Kinds that can be asked of nothing count for nothing.
 * @returns between 0 and 1; null where there is nothing to ask.
 */
export function readinessOf(
  kinds: readonly UpkeepKind[],
  { bases, wrong }: UpkeepCounts,
): {
  ready: number | null;
  asked: number;
  held: number;
} {
  let asked = 0;
  let failed = 0;
  for (const { key, of } of kinds) {
    asked += bases[of];
    failed += Math.min(wrong[key] ?? 0, bases[of]);
  }
  const held = asked - failed;
  return { ready: asked === 0 ? null : held / asked, asked, held };
}

/** Counts of several people together. */
export function togetherOf(kinds: readonly UpkeepKind[], all: readonly UpkeepCounts[]): UpkeepCounts {
  const sum = (of: (counts: UpkeepCounts) => number) => all.reduce((total, each) => total + of(each), 0);
  return {
    bases: Object.fromEntries(upkeepBases.map((base) => [base, sum(({ bases }) => bases[base])])) as Record<
      UpkeepBase,
      number
    >,
    wrong: Object.fromEntries(kinds.map(({ key }) => [key, sum(({ wrong }) => wrong[key] ?? 0)])),
  };
}

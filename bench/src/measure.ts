/** How long one kind of work took, in milliseconds. */
export interface Timing {
  median: number;
  p95: number;
}

/** The value below which a share of the times lies. */
function quantile(times: readonly number[], share: number): number {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)];
}

/** How often longer work is timed: of fewer times the 95th percentile would be the slowest of all. */
export const ROUNDS = 20;

type Work = (round: number) => unknown;

/** Runs several kinds of work in turn, so that a change of the machine's pace meets all of them alike. */
async function timeInTurn(works: readonly Work[], rounds: number): Promise<Timing[]> {
  const times = works.map((): number[] => []);
  for (let round = -Math.min(5, rounds); round < rounds; round += 1)
    for (const [index, work] of works.entries()) {
      const start = performance.now();
      await work(Math.abs(round));
      // The first few rounds warm caches and are not counted.
      if (round >= 0) times[index].push(performance.now() - start);
    }
  return times.map((each) => ({ median: quantile(each, 0.5), p95: quantile(each, 0.95) }));
}

/** Runs work so many times after a few that are not counted. */
export async function time(work: Work, rounds: number): Promise<Timing> {
  return (await timeInTurn([work], rounds))[0];
}

/** The same for Zawn’s way and the way by hand, one after the other in each round. */
export async function timeBoth(
  zawn: Work,
  byHand: Work,
  rounds: number,
): Promise<{ zawn: Timing; byHand: Timing }> {
  const [ours, theirs] = await timeInTurn([zawn, byHand], rounds);
  return { zawn: ours, byHand: theirs };
}

/** One line of the table. */
export interface Line {
  what: string;
  aim: string;
  zawn: Timing;
  byHand: Timing | undefined;
  isMet: boolean;
}

const ms = (value: number) => (value < 10 ? value.toFixed(1) : value.toFixed(0));

/** The lines as a Markdown table. */
export function tableOf(lines: readonly Line[]): string {
  const rows = lines.map(({ what, aim, zawn, byHand, isMet }) => {
    const ratio = byHand ? (zawn.median / byHand.median).toFixed(2) : '–';
    const hand = byHand ? `${ms(byHand.median)} / ${ms(byHand.p95)}` : '–';
    return `| ${what} | ${ms(zawn.median)} | ${ms(zawn.p95)} | ${hand} | ${ratio} | ${aim} | ${isMet ? 'met' : '**missed**'} |`;
  });
  return [
    '| what | median ms | p95 ms | by hand, median / p95 | ratio | aim | |',
    '|---|---|---|---|---|---|---|',
    ...rows,
  ].join('\n');
}

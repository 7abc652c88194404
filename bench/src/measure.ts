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

/** Runs work so many times after a few that are not counted. */
export async function time(work: (round: number) => unknown, rounds: number): Promise<Timing> {
  const warming = Math.min(5, rounds);
  for (let round = 0; round < warming; round += 1) await work(round);
  const times: number[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const start = performance.now();
    await work(round);
    times.push(performance.now() - start);
  }
  return { median: quantile(times, 0.5), p95: quantile(times, 0.95) };
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

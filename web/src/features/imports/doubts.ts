import { type TableHead } from '@zawn/core';
import { type Guess, type SetupGuess } from '@zawn/core/imports';

/** What of a file can be read two ways, so that its values would be other ones. */
export type Doubt = 'encoding' | 'dates' | 'decimal' | 'names';

/** A guess no surer than this is asked about before anything is written. */
const ASKED = 0.6;

const inWords: Record<Doubt, string> = {
  encoding: 'which encoding it is in',
  dates: 'in which order dates are written',
  decimal: 'what stands before decimals',
  names: 'in which order names are written',
};

/** What has to be said before a file can be brought in, as far as it has not been. */
export function openDoubts(
  { encoding, format }: Pick<TableHead, 'encoding' | 'format'>,
  { dates, decimal, names }: Pick<SetupGuess, 'dates' | 'decimal' | 'names'>,
  agreed: ReadonlySet<Doubt>,
): Doubt[] {
  const guesses: [Doubt, Guess<unknown> | undefined][] = [
    ['encoding', format === 'delimited' ? encoding : undefined],
    ['dates', dates],
    ['decimal', decimal],
    ['names', names],
  ];
  return guesses.flatMap(([doubt, guess]) =>
    guess !== undefined && guess.sure <= ASKED && !agreed.has(doubt) ? [doubt] : [],
  );
}

/** What has to be said, in a sentence; undefined when nothing has. */
export function doubtsInWords(doubts: readonly Doubt[]): string | undefined {
  if (doubts.length === 0) return undefined;
  const words = doubts.map((doubt) => inWords[doubt]);
  const last = words.pop() as string;
  return `First say ${words.length > 0 ? `${words.join(', ')} and ` : ''}${last}.`;
}

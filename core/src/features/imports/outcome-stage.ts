import { nameKey } from './name-key';

/** How other lists of stages call a deal that was won, and one that was lost. */
const ended = [
  ['won', /(^|[^\p{L}])(won|gewonnen|gagnée?|ganad[oa]|vint[oa])($|[^\p{L}])/iu],
  ['lost', /(^|[^\p{L}])(lost|verloren|perdue?|perdid[oa]|pers[oa])($|[^\p{L}])/iu],
] as const;

/** Words of a stage that says how it ended, not more. */
const MOST_WORDS = 4;

/**
 * The outcome that a text in a column of stages means: elsewhere *Closed won* is a stage, here it is how a deal ended.
 * @param stages what our own stages are called: one of these is meant by its name.
 * @returns undefined where the text means no outcome, or both.
 */
export function outcomeInStage(
  text: string,
  stages: readonly { name: string }[],
): 'won' | 'lost' | undefined {
  if (text.split(/\s+/).length > MOST_WORDS) return undefined;
  if (stages.some(({ name }) => nameKey(name) === nameKey(text))) return undefined;
  const meant = ended.filter(([, words]) => words.test(text)).map(([outcome]) => outcome);
  return meant.length === 1 ? meant[0] : undefined;
}

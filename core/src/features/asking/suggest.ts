import { readTyped } from './read-typed';
import { type Vocabulary } from './reading';
import { type Meanings } from './meanings';
import { wordsOf } from './words';

/** What else can be typed where a word has begun: the whole text with it, and the words themselves. */
export interface Suggestion {
  text: string;
  words: string;
}

/** Suggestions at once: more are not looked through. */
const MOST = 6;

/**
 * What a text can go on with: names, fields and choices that begin as its last word does, those first that the question
 * then understands.
 */
export function suggestWords(text: string, vocabulary: Vocabulary, meanings: Meanings): Suggestion[] {
  const last = wordsOf(text).at(-1);
  if (!last || last.to < text.length || last.text.length < 2 || last.number !== undefined) return [];
  const begun = last.text;
  const { asked } = readTyped(text.slice(0, last.from), vocabulary, meanings);
  const names = meanings.names(asked?.question.object ?? 'deal');
  const fitting = names.filter(
    (name) => name.toLowerCase().startsWith(begun) && name.toLowerCase() !== begun,
  );
  return [...new Set(fitting)]
    .slice(0, MOST)
    .map((words) => ({ text: `${text.slice(0, last.from)}${words}`, words }));
}

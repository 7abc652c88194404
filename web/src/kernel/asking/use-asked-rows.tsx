import { suggestWords, type Asked } from '@zawn/core';
import { useMemo, type ReactNode } from 'react';
import { useSession } from '../../platform/sessions/session';
import './asking.css';
import { foundRow, type FoundRow } from './found-row';
import { MarkedText } from './marked-text';
import { readingWords } from './typed-question';
import { askedAddress, readWith, useAsked, useMeanings } from './use-asking';

const row = (value: string, words: string, detail = '') =>
  foundRow(value, 'Ask', words, { detail, isSentence: true });
const told = (value: string, words: string, shown: ReactNode = words) =>
  foundRow(value, 'Ask', words, { shown, isSentence: true, disabled: true });

/** So many other readings are offered, each in a line. */
const MOST_READINGS = 3;

/** So many ways to go on are offered. */
const MOST_GOING_ON = 3;

/** What a text asks, and what it can go on with. */
interface AskedRows {
  rows: FoundRow[];
  /** All of it was understood. */
  isUnderstood: boolean;
  goOn: FoundRow[];
}

/** Two words or more may be a question; one is a name, or the beginning of one. */
const isSentence = (text: string) => /\S\s+\S/.test(text);

/**
 * What a text typed into *Go anywhere* asks: how it is read and how many records that is, before Enter asks it. Words
 * with another reading offer that in the lines below; what was not understood is said, and asked without only on purpose.
 */
export function useAskedRows(text: string): AskedRows {
  const { catalogue } = useSession();
  const meanings = useMeanings();
  const reading = useMemo(() => (isSentence(text) ? readWith(text, meanings) : undefined), [text, meanings]);
  const others = useMemo(
    () =>
      (reading?.doubtful ?? []).slice(0, MOST_READINGS).flatMap(({ others: [found] }) => {
        const { asked } = readWith(found.text ?? text, meanings, found.rules);
        return asked ? [{ as: found.as, asked }] : [];
      }),
    [reading, text, meanings],
  );
  const asked = reading?.asked;
  const shown = useAsked(asked);
  const goOn = useMemo(
    () => (isSentence(text) ? suggestWords(text, meanings.vocabulary, meanings).slice(0, MOST_GOING_ON) : []),
    [text, meanings],
  );
  const rows = (all: FoundRow[], isUnderstood = false): AskedRows => ({
    rows: all,
    isUnderstood,
    goOn: goOn.map(({ text: next }) => foundRow(`type ${next}`, 'Type', next, { isSentence: true })),
  });
  if (!reading) return rows([]);
  const { unread, noQuestion, respelt } = reading;
  const spelt = respelt.map(({ from, to, as }) => `“${text.slice(from, to)}” read as “${as}”`).join(', ');
  const to = (what: Asked) => `go ${askedAddress(what, catalogue)}`;
  if (noQuestion) {
    const isAboutRecords = text
      .split(/\s+/)
      .some((word) => meanings.object(word.toLowerCase().replace(/s$/, '')));
    return rows(isAboutRecords ? [told('why', noQuestion.why)] : [], isAboutRecords);
  }
  if (!asked || !shown) return rows([]);
  const left = unread.reduce((sum, { from, to: end }) => sum + end - from, 0);
  // Mostly unknown words are a name that is looked for.
  if (left > text.length / 2) return rows([]);
  if (unread.length > 0)
    return rows([
      told(
        'unread',
        `Not understood: ${unread.map(({ from, to: end }) => text.slice(from, end)).join(', ')}`,
        <>
          <MarkedText text={text} spans={unread} /> is not understood where it is underlined.
        </>,
      ),
      row(to(asked), `Without that: ${shown.words}`, shown.count),
    ]);
  return rows(
    [
      row(to(asked), spelt ? `${shown.words} (${spelt})` : shown.words, shown.count),
      ...others.map((other) => row(to(other.asked), `Or, read as ${readingWords(other.as)}`)),
    ],
    true,
  );
}

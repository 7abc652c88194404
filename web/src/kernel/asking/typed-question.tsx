import {
  isDay,
  shownAsked,
  suggestWords,
  type Asked,
  type Design,
  type Doubtful,
  type WordRules,
} from '@zawn/core';
import { Input, type InputRef } from 'antd';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useNavigate } from 'react-router';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import './asking.css';
import { MarkedText } from './marked-text';
import { askedAddress, readWith, useAsked, useMeanings } from './use-asking';

/** A reading as it is told: days as days are written. */
export const readingWords = (words: string): string => (isDay(words) ? date(words) : words);

interface Props {
  design: Design;
  onChange: (design: Design) => void;
  /** Whether what was asked is shown elsewhere, and not in this sentence. */
  isElsewhere?: boolean;
  close: () => void;
  typed: string;
}

/**
 * A whole question typed in words: how it is read and how many records that is stands below it, what was not understood
 * is underlined, and what has two readings is one key away from the other.
 */
export default function TypedQuestion({ onChange, design, isElsewhere = false, close, typed }: Props) {
  const [text, setText] = useState(typed);
  const [rules, setRules] = useState<Partial<WordRules>>({});
  const field = useRef<InputRef>(null);
  // What is around it is put in its place first, and cannot have the focus before.
  useEffect(() => {
    const timer = window.setTimeout(() => field.current?.focus({ cursor: 'end' }));
    return () => window.clearTimeout(timer);
  }, []);
  const meanings = useMeanings();
  const { catalogue } = useSession();
  const navigate = useNavigate();
  const reading = useMemo(() => readWith(text, meanings, rules), [text, meanings, rules]);
  const suggestions = useMemo(() => suggestWords(text, meanings.vocabulary, meanings), [text, meanings]);
  const { asked, unread, doubtful, respelt, noQuestion } = reading;
  const shown = useAsked(asked);
  const isWhole = asked !== undefined && unread.length === 0;
  const run = (what: Asked | undefined) => {
    if (!what) return;
    const as = shownAsked(what, catalogue);
    const isHere = !isElsewhere && 'view' in as && what.question.object === design.question.object;
    if (isHere && 'view' in as) onChange(as.view);
    else void navigate(askedAddress(what, catalogue));
    close();
  };
  const choose = ({ others }: Doubtful) => {
    const [other] = others;
    if (other.rules) setRules({ ...rules, ...other.rules });
    else if (other.text !== undefined) setText(other.text);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === 'Tab' && !event.shiftKey && suggestions.length > 0) {
      event.preventDefault();
      setText(`${suggestions[0].text} `);
    } else if (event.altKey && event.key === 'ArrowRight' && doubtful.length > 0) {
      event.preventDefault();
      choose(doubtful[0]);
    }
  };
  return (
    <div className="typed-question">
      <Input
        ref={field}
        aria-label="Type the whole question"
        placeholder="open deals over 25k closing this quarter by owner"
        value={text}
        maxLength={1000}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={press}
        onPressEnter={(event) => {
          // It is done with here, and presses nothing that has the focus next.
          event.preventDefault();
          if (isWhole) run(asked);
        }}
      />
      {suggestions.length > 0 && (
        <p className="typed-suggestions">
          {suggestions.map(({ text: next, words }, index) => (
            <button key={words} type="button" className="link-button" onClick={() => setText(`${next} `)}>
              {words}
              {index === 0 && <kbd>Tab</kbd>}
            </button>
          ))}
        </p>
      )}
      <div className="typed-reading" aria-live="polite">
        {text.trim() !== '' && noQuestion && <p className="left-out">{noQuestion.why}</p>}
        {unread.length > 0 && text.trim() !== '' && (
          <p>
            <MarkedText text={text} spans={unread} />{' '}
            <span className="second">is not understood where it is underlined.</span>
          </p>
        )}
        {respelt.length > 0 && (
          <p className="second">
            Read as {respelt.map(({ as }) => `“${as}”`).join(', ')} for{' '}
            {respelt.map(({ from, to }) => `“${text.slice(from, to)}”`).join(', ')}.
          </p>
        )}
        {shown && text.trim() !== '' && (
          <p>
            {shown.words}
            {shown.count && <b>{`: ${shown.count}`}</b>}
          </p>
        )}
        {doubtful.map((each, index) => (
          <p key={`${each.from} ${each.as}`} className="second">
            “{text.slice(each.from, each.to)}” is read as {readingWords(each.as)}.{' '}
            <button type="button" className="link-button" onClick={() => choose(each)}>
              Read it as {readingWords(each.others[0].as)}
              {index === 0 && <kbd>Alt →</kbd>}
            </button>
          </p>
        ))}
        {asked && text.trim() !== '' && (
          <p>
            <button type="button" className="link-button" onClick={() => run(asked)}>
              {isWhole ? 'Ask this' : 'Ask without what is underlined'}
              {isWhole && <kbd>Enter</kbd>}
            </button>
          </p>
        )}
      </div>
    </div>
  );
}

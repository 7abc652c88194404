import { asOfInWords, pastDayMeant, suggestPastDays, type PastDay, type Question } from '@zawn/core';
import { useState } from 'react';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { PickList } from './pick-list';
import { Token } from './token';

const inWords = (asOf: PastDay) => asOfInWords(asOf, { day: date });

function PastDayPick({ typed, onPick }: { typed: string; onPick: (asOf: PastDay) => void }) {
  const { today } = useSession();
  const [text, setText] = useState(typed);
  return (
    <PickList
      label="As it stood"
      options={suggestPastDays(text, today).map((asOf) => ({
        key: JSON.stringify(asOf),
        label: inWords(asOf).replace('as it stood ', ''),
        value: asOf,
      }))}
      onType={setText}
      typed={typed}
      onPick={onPick}
      placeholder="1 October, last month, 30 days ago"
      nothing="No day of that name that has been. Try 1 October or 30 days ago."
    />
  );
}

/** The end of a question that is asked of records as they stood on a day. */
export function AsOfClause({
  question,
  onChange,
}: {
  question: Question;
  onChange: (question: Question) => void;
}) {
  const { asOf, ...now } = question;
  return (
    <span className="clause">
      <Token
        kind={asOf === undefined ? 'add' : 'value'}
        label="As it stood"
        {...(asOf === undefined ? {} : { onRemove: () => onChange(now) })}
        picker={(close, typed) => (
          <PastDayPick
            typed={typed}
            onPick={(next) => {
              onChange({ ...now, asOf: next });
              close();
            }}
          />
        )}
      >
        {asOf === undefined ? 'as it stood…' : inWords(asOf)}
      </Token>
    </span>
  );
}

/** What is to be known of an answer as it stood. */
export function AsOfNote({ asOf }: { asOf: PastDay }) {
  const { today, organisation } = useSession();
  const day = pastDayMeant(asOf, { today, calendar: organisation });
  return (
    <p className="second overlap">
      At the end of {date(day)}, from the change log. “Today” is that day, and amounts are at its rates. What
      has left the bin for good since is missing.
    </p>
  );
}

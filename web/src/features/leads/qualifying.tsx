import { useQuery } from '@tanstack/react-query';
import {
  CONVERTED,
  metField,
  metNoteField,
  tradeQuestions,
  type AnyRecord,
  type FieldValue,
  type ScoreAnswer,
  type TradeQuestion,
} from '@zawn/core';
import { Input, Popover } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { type SheetProps } from '../../kernel/shell/feature';
import { GuidePart } from '../guides/guide-part';
import './qualifying.css';

const signed = (points: number) => (points > 0 ? `+${points}` : `−${Math.abs(points)}`);

/** The score, which opens to every rule that gave points. */
function Score({ lead }: { lead: AnyRecord }) {
  const { data } = useQuery({
    queryKey: [RECORDS, 'score', lead.id, lead.version],
    queryFn: () => call<ScoreAnswer>('GET', `/leads/${lead.id}/score`),
  });
  return (
    <Popover
      trigger="click"
      placement="bottomLeft"
      arrow={false}
      content={
        <div className="score-rules">
          {data && data.counted.length === 0 && <p>No rule counts for this lead yet.</p>}
          <ul>
            {data?.counted.map(({ id, name, points }) => (
              <li key={id}>
                <b className={points < 0 ? 'attention late' : ''}>{signed(points)}</b> {name}
              </li>
            ))}
          </ul>
          {data && data.asleep.length > 0 && (
            <p className="second">A rule is left out: a field it asks about was retired.</p>
          )}
        </div>
      }
    >
      <button type="button" className="score" title="Show why">
        <b>{Number(lead.score ?? 0)}</b> <span>score</span>
      </button>
    </Popover>
  );
}

const NEXT: Record<string, 'met' | 'notMet' | null> = { unknown: 'met', met: 'notMet', notMet: null };
const words: Record<string, string> = { unknown: 'not known', met: 'met', notMet: 'not met' };

/** One of the four questions: a click goes on to the next answer, and a note says what is behind it. */
function Question({
  lead,
  question,
  readOnly,
}: {
  lead: AnyRecord;
  question: (typeof tradeQuestions)[number];
  readOnly: boolean;
}) {
  const write = useWrite();
  const key: TradeQuestion = question.key;
  const answer = (lead[metField(key)] as string | null) ?? 'unknown';
  const kept = (lead[metNoteField(key)] as string | null) ?? '';
  const [note, setNote] = useState<string>();
  const save = (values: Record<string, FieldValue>) =>
    write.mutate({ method: 'PATCH', path: pathOf('lead', lead.id), version: lead.version, body: values });
  return (
    <li className={`question question-${answer}`}>
      <button
        type="button"
        disabled={readOnly}
        title={question.asks}
        onClick={() => save({ [metField(key)]: NEXT[answer] })}
        aria-label={`${question.label}: ${words[answer]}. Change`}
      >
        <span className="question-mark" aria-hidden />
        {question.label}
      </button>
      <Input
        variant="borderless"
        size="small"
        value={note ?? kept}
        readOnly={readOnly}
        maxLength={300}
        placeholder={question.asks}
        aria-label={`Note on ${question.label.toLowerCase()}`}
        onChange={({ target }) => setNote(target.value)}
        onPressEnter={(event) => event.currentTarget.blur()}
        onBlur={() => {
          if (note !== undefined && note !== kept) save({ [metNoteField(key)]: note || null });
          setNote(undefined);
        }}
      />
    </li>
  );
}

interface QualifyingProps {
  sheet: SheetProps;
  readOnly: boolean;
  /** Begins to convert it. */
  convert: () => void;
}

/** What is known of a lead: its score with why, the four questions of the trade, and what to find out next. */
export function Qualifying({ sheet, readOnly, convert }: QualifyingProps) {
  const lead = sheet.record;
  return (
    <div className="qualifying">
      <Score lead={lead} />
      <ul className="questions" aria-label="The four questions">
        {tradeQuestions.map((question) => (
          <Question key={question.key} lead={lead} question={question} readOnly={readOnly} />
        ))}
      </ul>
      <GuidePart
        sheet={{ ...sheet, object: 'lead' }}
        isAsked={!readOnly}
        instead={(to) =>
          to === CONVERTED ? { words: 'Convert', before: 'Before it is converted', run: convert } : undefined
        }
      />
    </div>
  );
}

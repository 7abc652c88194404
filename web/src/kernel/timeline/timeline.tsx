import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { ask, choiceLabel, fieldOf, type AnyRecord, type LoggedChange, type SubjectKey } from '@zawn/core';
import { Input } from 'antd';
import { ClipboardList, History, Mail, Paperclip, StickyNote } from 'lucide-react';
import { useDeferredValue, useMemo, useState } from 'react';
import { KindIcon } from '../../features/activities/kinds';
import { allRecords, timelineOf } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { Earlier } from '../../platform/frame/earlier';
import { clock, counted, nearDate, size } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { changesInWords } from './change-in-words';
import { fold, foldRuns, type Line } from './folding';
import { MailLine } from '../../features/mail/mail-line';
import { NoteLine } from './note-line';
import { SubmissionLine } from '../../features/forms/submission-line';
import { useChangeWording } from './use-change-wording';

/** How something was written that nobody here wrote. */
const ways: Partial<Record<string, string>> = { form: 'Through a form', mail: 'By mail' };

function ActivityLine({ record }: { record: AnyRecord }) {
  const { catalogue } = useSession();
  const { outcome, result, minutes } = record;
  const said = outcome ? choiceLabel(fieldOf(catalogue, 'activity', 'outcome'), String(outcome)) : '';
  const lasted = minutes ? `${String(minutes)} min` : '';
  const noOutcome = record.kind === 'call' && !outcome ? 'no outcome written down' : '';
  return (
    <>
      <span>
        <b>{record.name}</b>{' '}
        {noOutcome ? <span className="attention">{noOutcome}</span> : <span>{said}</span>}{' '}
        <span className="second">{lasted}</span>
      </span>
      {result && <p>{result}</p>}
    </>
  );
}

/** What the timeline can be narrowed to. */
const shows: readonly { label: string; kinds: string | undefined }[] = [
  { label: 'All', kinds: undefined },
  { label: 'Done', kinds: 'activity' },
  { label: 'Notes', kinds: 'note' },
  { label: 'Mail', kinds: 'mail,submission' },
  { label: 'Files', kinds: 'file' },
  { label: 'Changes', kinds: 'change' },
];

const pinnedOn = (object: SubjectKey, id: number) => ({
  ...ask('note', { field: object, is: 'anyOf', value: [id] }, { field: 'pinned', is: 'is', value: true }),
  sort: [{ field: 'createdAt', descending: true }],
});

/** What happened on a record, newest first, day by day; what is pinned stands above. */
export function Timeline({ object, id }: { object: SubjectKey; id: number }) {
  const [kinds, setKinds] = useState<string>();
  const [text, setText] = useState('');
  const wanted = useDeferredValue(text.trim());
  const pages = useInfiniteQuery({
    ...timelineOf(object, id, { kinds, text: wanted || undefined }),
    placeholderData: keepPreviousData,
  });
  const { data, error, refetch } = pages;
  const pinned = useQuery(allRecords(pinnedOn(object, id)));
  const { me, person, organisation, today, dayOf } = useSession();
  const { undo } = useNotices();
  const wordingIn = useChangeWording();
  /** A change made to many records at once, which its maker can still take back as a whole. */
  const isOwnBulk = ({ through, person: by }: LoggedChange) => through === 'bulk' && by === me.id;
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set());
  const lines = useMemo(
    () => foldRuns(fold(data?.pages.flatMap((page) => page.rows) ?? []), opened),
    [data, opened],
  );
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={6} />;
  const who = (line: Exclude<Line, { kind: 'run' }>): string | undefined => {
    if (line.kind === 'submission') return 'Through the website';
    if (line.kind === 'mail') return String(line.record.senderName ?? line.record.sender);
    if (line.kind === 'changes') return person(line.changes[0].person)?.name ?? ways[line.changes[0].through];
    return person(Number(line.kind === 'activity' ? line.record.doneBy : line.record.owner))?.name;
  };
  return (
    <>
      <div className="timeline-tools" role="group" aria-label="What the timeline shows">
        {shows.map(({ label, kinds: these }) => (
          <button
            key={label}
            type="button"
            className="chip"
            aria-pressed={kinds === these}
            onClick={() => setKinds(these)}
          >
            {label}
          </button>
        ))}
        <Input
          size="small"
          allowClear
          value={text}
          onChange={({ target }) => setText(target.value)}
          placeholder="Find in what was said"
          aria-label="Find in the timeline"
          maxLength={200}
        />
      </div>
      {pinned.data && pinned.data.rows.length > 0 && (
        <ul className="pinned-notes" aria-label="Pinned">
          {pinned.data.rows.map((note) => (
            <li key={note.id}>
              <NoteLine note={note} />
            </li>
          ))}
        </ul>
      )}
      {lines.length === 0 && (
        <p className="second timeline-nothing">
          {kinds || wanted ? 'Nothing of that here.' : 'Nothing has happened here yet.'}
        </p>
      )}
      <ol className="timeline">
        {lines.map((line, index) => (
          <li key={`${line.kind} ${line.id}`} className={`entry entry-${line.kind}`}>
            {(index === 0 || dayOf(lines[index - 1].at) !== dayOf(line.at)) && (
              <h4>{nearDate(dayOf(line.at), today)}</h4>
            )}
            <div className="entry-body">
              <span className="entry-sign">
                {line.kind === 'activity' ? (
                  <KindIcon kind={String(line.record.kind)} />
                ) : line.kind === 'note' ? (
                  <StickyNote size={14} aria-label="Note" role="img" />
                ) : line.kind === 'file' ? (
                  <Paperclip size={14} aria-label="File" role="img" />
                ) : line.kind === 'mail' ? (
                  <Mail size={14} aria-label="Mail" role="img" />
                ) : line.kind === 'submission' ? (
                  <ClipboardList size={14} aria-label="Form" role="img" />
                ) : (
                  <History size={14} aria-label="Change" role="img" />
                )}
              </span>
              <div>
                {line.kind === 'activity' && <ActivityLine record={line.record} />}
                {line.kind === 'note' && <NoteLine note={line.record} />}
                {line.kind === 'file' && (
                  <span>
                    File <b>{line.record.name}</b>{' '}
                    <span className="second">{size(Number(line.record.size))}</span>
                  </span>
                )}
                {line.kind === 'mail' && <MailLine record={line.record} />}
                {line.kind === 'submission' && (
                  <SubmissionLine form={line.form} submission={line.submission} />
                )}
                {line.kind === 'run' && (
                  <button
                    type="button"
                    className="link-button"
                    onClick={() => setOpened(new Set([...opened, line.id]))}
                  >
                    {counted(line.hidden, 'more change')}
                  </button>
                )}
                {line.kind === 'changes' && (
                  <span>
                    {changesInWords(line.changes, wordingIn(line.currency))}
                    {line.on ? <span className="second"> ({line.on})</span> : null}
                    {isOwnBulk(line.changes[0]) && (
                      <>
                        {' '}
                        <button
                          type="button"
                          className="link-button"
                          onClick={() => void undo(line.changes[0].unit)}
                        >
                          Undo for all records
                        </button>
                      </>
                    )}
                  </span>
                )}
                {line.kind !== 'run' && (
                  <span className="entry-who">
                    {who(line) ?? 'Zawn'}, {clock(line.at, organisation.timeZone)}
                  </span>
                )}
              </div>
            </div>
          </li>
        ))}
        <Earlier pages={pages} />
      </ol>
    </>
  );
}

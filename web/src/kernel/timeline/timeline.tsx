import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { ask, type LoggedChange, type SubjectKey, type TimelineEntry } from '@zawn/core';
import { Input } from 'antd';
import { History } from 'lucide-react';
import { useDeferredValue, useMemo, useState } from 'react';
import { allRecords, timelineOf } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { clock, counted, nearDate } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { changesInWords } from './change-in-words';
import { fold, foldRuns, type Line } from './folding';
import { useBrought, type TimelineKind } from '../shell/feature';
import { NoteLine } from './note-line';
import { useChangeWording } from './use-change-wording';

/** How something was written that nobody here wrote. */
const ways: Partial<Record<string, string>> = { form: 'Through a form', mail: 'By email' };

const pinnedOn = (object: SubjectKey, id: number) => ({
  ...ask('note', { field: object, is: 'anyOf', value: [id] }, { field: 'pinned', is: 'is', value: true }),
  sort: [{ field: 'createdAt', descending: true }],
});

const CHANGES = 'Changes';

/** What the timeline can be narrowed to: the kinds that are shown as the same, together. */
function showsOf(kinds: readonly TimelineKind[]): { label: string; kinds: string | undefined }[] {
  const labels = [...new Set(kinds.map(({ shownAs }) => shownAs))].filter((label) => label !== CHANGES);
  const those = (label: string) => kinds.filter(({ shownAs }) => shownAs === label).map(({ kind }) => kind);
  return [
    { label: 'All', kinds: undefined },
    ...labels.map((label) => ({ label, kinds: those(label).join(',') })),
    { label: CHANGES, kinds: ['change', ...those(CHANGES)].join(',') },
  ];
}

interface Shown {
  entry: TimelineEntry;
  kind: TimelineKind;
}

const Sign = ({ entry, kind: { Sign: Own } }: Shown) => <Own entry={entry} />;
const Entry = ({ entry, kind: { Line: Own } }: Shown) => <Own entry={entry} />;

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
  const { me, person, timeZone, today, dayOf } = useSession();
  const brought = useBrought('timeline');
  const shows = showsOf(brought);
  const shownBy = ({ kind }: TimelineEntry) => brought.find((each) => each.kind === kind) as TimelineKind;
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
    if (line.kind === 'changes') return person(line.changes[0].person)?.name ?? ways[line.changes[0].through];
    const found = shownBy(line).who(line);
    return typeof found === 'string' ? found : person(found)?.name;
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
              <h3>{nearDate(dayOf(line.at), today)}</h3>
            )}
            <div className="entry-body">
              <span className="entry-sign">
                {line.kind === 'changes' || line.kind === 'run' ? (
                  <History size={14} aria-label="Change" role="img" />
                ) : (
                  <Sign {...{ entry: line, kind: shownBy(line) }} />
                )}
              </span>
              <div>
                {line.kind !== 'changes' && line.kind !== 'run' && (
                  <Entry {...{ entry: line, kind: shownBy(line) }} />
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
                    {who(line) ?? 'Zawn'}, {clock(line.at, timeZone)}
                  </span>
                )}
              </div>
            </div>
          </li>
        ))}
        <LoadEarlier pages={pages} />
      </ol>
    </>
  );
}

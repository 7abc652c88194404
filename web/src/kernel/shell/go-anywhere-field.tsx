import { useQuery } from '@tanstack/react-query';
import { ask, objectType, type Hit, type SubjectKey } from '@zawn/core';
import { AutoComplete, type RefSelectProps } from 'antd';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS, savedViews } from '../../platform/api/queries';
import { listAddress } from '../questions/list-address';
import { foundRow } from '../asking/found-row';
import { useAskedRows } from '../asking/use-asked-rows';
import { useAdd, type Addable } from './adding';
import { useOpening } from '../../platform/frame/opening';
import { useSettled } from '../../platform/frame/use-settled';
import { useWrite } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { useBrought } from './feature';
import { usePlaces } from './use-places';
import { useAdditions } from './use-additions';
import { GO_ANYWHERE, GoAnywhereHint, type GoAnywhereProps } from './go-anywhere-hint';

const SHORTEST = 2;
/** What is being typed is looked for when it has stood so long. */
const SETTLED_MS = 60;
/** So many of those whom a line may mean are offered. */
const MOST_MEANT = 3;

const hitRow = ({ object, id, name, detail, in: found }: Hit, index: number) =>
  foundRow(
    // A record may be found several times, by itself and by what was said about it.
    object === 'activity' ? `go ${activitiesCalled(name)}` : `open ${object} ${id} ${index}`,
    objectType(found?.kind ?? object).label,
    name,
    { detail: found?.text ?? detail },
  );

/** The address of the activities of exactly this name: one that hangs on no record has no sheet. */
const activitiesCalled = (value: string) =>
  listAddress('activities', ask('activity', { field: 'name', is: 'is', value }));

/** The address of the activities with these words in their name or in what came of them. */
const activitiesSaying = (value: string) =>
  listAddress(
    'activities',
    ask('activity', {
      join: 'any',
      of: (['name', 'result', 'description'] as const).map((field) => ({ field, is: 'contains', value })),
    }),
  );

/** The field with what it finds: records by name, email or number, pages, and what can be added. */
export default function GoAnywhereField({ text, setText }: GoAnywhereProps) {
  const places = usePlaces();
  const added = useAdditions();
  const [isOpen, setOpen] = useState(true);
  const asked = text.trim();
  // A render put off would be starved by the list, which updates itself with every letter.
  const looked = useSettled(asked, SETTLED_MS);
  const field = useRef<RefSelectProps>(null);
  const goesOn = useRef(false);
  const navigate = useNavigate();
  const { open } = useOpening();
  const add = useAdd();

  const { data, isPlaceholderData } = useQuery({
    queryKey: [RECORDS, 'search', looked],
    queryFn: ({ signal }) =>
      call<{ hits: Hit[] }>('GET', `/search?q=${encodeURIComponent(looked)}`, { signal }),
    enabled: looked.length >= SHORTEST,
    placeholderData: (before) => before,
  });

  const session = useSession();
  const brought = useBrought('sayings');
  const { data: sayings = [] } = useQuery({
    queryKey: ['sayings'],
    queryFn: () => Promise.all(brought.map((fetched) => fetched())),
    staleTime: Infinity,
  });
  const saying = sayings.flatMap((read) => read(asked, session) ?? []).at(0);
  const { data: meant } = useQuery({
    queryKey: [RECORDS, 'search', saying?.about],
    queryFn: ({ signal }) =>
      call<{ hits: Hit[] }>('GET', `/search?q=${encodeURIComponent(saying?.about ?? '')}`, { signal }),
    enabled: saying !== undefined && saying.unclear === undefined,
  });
  const write = useWrite();
  const { data: views } = useQuery(savedViews);

  const matches = (label: string) => label.toLowerCase().includes(asked.toLowerCase());
  const pages = places
    .filter(({ label }) => matches(label))
    .map(({ path, label }) => foundRow(`go ${path}`, 'Go to', label));
  const additions = added
    .map(({ object, label }) => ({ object, label: `New ${label.toLowerCase()}` }))
    .filter(({ label }) => matches(label))
    .map(({ object, label }) => foundRow(`add ${object}`, 'Add', label));
  // Of what was found for fewer letters only that is offered which is called as it is typed now.
  const isOlder = isPlaceholderData || looked !== asked;
  const found = (data?.hits ?? []).filter(({ name, detail }) => !isOlder || matches(`${name} ${detail}`));
  const hits = asked.length >= SHORTEST ? found.map(hitRow) : [];
  const saved =
    asked.length < SHORTEST
      ? []
      : [
          ...(views?.views ?? []).map(({ id, name, object }) => ({
            kind: 'View',
            name,
            to: `/${objectType(object).path}?view=${id}`,
          })),
          ...(views?.lists ?? []).map(({ id, name, object }) => ({
            kind: 'List',
            name,
            to: `/${objectType(object).path}?list=${id}`,
          })),
        ].filter(({ name }) => matches(name));
  const sayingSo =
    asked.length < SHORTEST
      ? []
      : [foundRow(`go ${activitiesSaying(asked)}`, 'Find', `Activities that say “${asked}”`)];
  const who = (meant?.hits ?? []).filter(({ object }) => saying?.objects.includes(object as SubjectKey));
  // What was understood stands first, before Enter does it.
  const said = !saying
    ? []
    : saying.unclear
      ? [foundRow('none', saying.kind, saying.unclear, { disabled: true })]
      : who
          .slice(0, MOST_MEANT)
          .map(({ object, id, name }) => foundRow(`say ${object} ${id}`, saying.kind, saying.label(name)));
  const { rows: questions, isUnderstood, goOn } = useAskedRows(asked);
  const options = [
    ...said,
    // What was understood in part is said, and asked only by whoever goes down to it.
    ...(isUnderstood ? questions : []),
    ...hits,
    ...(isUnderstood ? [] : questions.slice(0, 1)),
    ...sayingSo,
    ...(isUnderstood ? [] : questions.slice(1)),
    ...goOn,
    ...saved.map(({ kind, name, to }) => foundRow(`go ${to}`, kind, name)),
    ...pages,
    ...additions,
  ];

  const choose = (value: string) => {
    const [action, object, id] = value.split(' ');
    if (action === 'type') {
      setText(`${value.slice(action.length + 1)} `);
      goesOn.current = true;
      return;
    }
    setText('');
    field.current?.blur();
    if (action === 'say' && saying)
      write.mutate(saying.write({ object: object as SubjectKey, id: Number(id) }));
    else if (action === 'open') open(object as SubjectKey, Number(id));
    else if (action === 'add') add(object as Addable);
    else void navigate(object);
  };

  return (
    <AutoComplete
      ref={field}
      id={GO_ANYWHERE}
      autoFocus
      className="go-anywhere"
      value={text}
      options={options}
      open={isOpen}
      onOpenChange={(next) => {
        // What goes on being typed is not over by what was chosen for it.
        if (!next && goesOn.current) goesOn.current = false;
        else setOpen(next);
      }}
      onSearch={(value) => {
        setText(value);
        setOpen(true);
      }}
      onSelect={choose}
      onFocus={() => setOpen(true)}
      onKeyDown={(event) => {
        if (event.key === 'Escape') field.current?.blur();
      }}
      defaultActiveFirstOption
      classNames={{ popup: { root: 'go-anywhere-list' } }}
      popupMatchSelectWidth={520}
      notFoundContent={
        asked.length >= SHORTEST ? (
          <span className="hit-detail">Nothing called “{asked}” within your reach.</span>
        ) : null
      }
      aria-label="Go anywhere"
      placeholder={<GoAnywhereHint />}
    />
  );
}

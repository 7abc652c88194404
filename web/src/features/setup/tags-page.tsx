import { useQuery } from '@tanstack/react-query';
import { ask, fieldOf, objectType, type ObjectKey, type RecordOf, type TagUses } from '@zawn/core';
import { App, Button, Input } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useBulk } from '../bulk/use-bulk';
import { counted } from '../../platform/frame/format';
import { InlineForm } from '../../platform/frame/inline-form';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { TAGS } from '../../kernel/records/tags';
import { useSession } from '../../platform/sessions/session';
import './setup.css';

type Tag = RecordOf<'tag'>;

const withTag = (object: ObjectKey, name: string) =>
  ask(object, { field: 'tags', is: 'anyOf', value: [name] });

/** Gives a tag another name; a name that is in use already makes one tag of both. */
function Rename({ tag, others, close }: { tag: TagUses; others: readonly string[]; close: () => void }) {
  const [name, setName] = useState(tag.name);
  const { modal } = App.useApp();
  const doToMany = useBulk();
  const { data } = useQuery(allRecords(TAGS));
  const write = useWrite();
  const wanted = name.trim();
  const isMerge = others.includes(wanted);
  const rename = async () => {
    for (const object of Object.keys(tag.uses) as ObjectKey[]) {
      const selection = { question: withTag(object, tag.name), except: [] };
      const action = { do: 'tag' as const, add: [wanted], remove: [tag.name] };
      if (!(await doToMany({ object, selection, action }))) return;
    }
    const known = (data?.rows ?? []) as unknown as Tag[];
    const own = known.find((each) => each.name === tag.name);
    if (own) {
      const path = `/tags/${own.id}`;
      const isKnown = known.some((each) => each.name === wanted);
      write.mutate(
        isKnown
          ? { method: 'DELETE', path, version: own.version }
          : { method: 'PATCH', path, version: own.version, body: { name: wanted } },
      );
    }
    close();
  };
  const save = () => {
    if (wanted === '' || wanted === tag.name) return close();
    if (!isMerge) return void rename();
    void modal.confirm({
      title: `Make “${tag.name}” and “${wanted}” one tag?`,
      content: `Records tagged “${tag.name}” will be tagged “${wanted}”.`,
      okText: 'Merge tags',
      onOk: rename,
    });
  };
  return (
    <InlineForm
      save={save}
      close={close}
      label={isMerge ? `Merge into ${wanted}` : 'Rename'}
      isBusy={false}
      isReady={wanted !== ''}
      className="tag-rename"
    >
      <Input
        autoFocus
        value={name}
        onChange={({ target }) => setName(target.value)}
        aria-label={`New name of ${tag.name}`}
        maxLength={60}
      />
    </InlineForm>
  );
}

/** Every tag in use: how it looks, what carries it, and what it is called. */
export function Component() {
  const { catalogue } = useSession();
  const [renaming, setRenaming] = useState<string>();
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'tag-uses'],
    queryFn: () => call<{ tags: TagUses[] }>('GET', '/tag-uses'),
  });
  const { data: known } = useQuery(allRecords(TAGS));
  const write = useWrite();
  const tags = (known?.rows ?? []) as unknown as Tag[];
  const colours = fieldOf(catalogue, 'tag', 'colour')?.choices ?? [];
  const paint = (name: string, colour: string | null) => {
    const own = tags.find((each) => each.name === name);
    if (own)
      write.mutate({ method: 'PATCH', path: `/tags/${own.id}`, version: own.version, body: { colour } });
    else write.mutate({ method: 'POST', path: '/tags', body: { name, colour } });
  };
  return (
    <>
      <header className="page-head">
        <h1>Tags</h1>
        {data && <span className="page-count">{counted(data.tags.length, 'tag')} in use</span>}
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={7} />
      ) : data.tags.length === 0 ? (
        <Empty title="No tags yet.">
          <p>Whoever tags a record makes a tag. Here they are renamed, merged and coloured.</p>
        </Empty>
      ) : (
        <ul className="tag-list" aria-label="Tags">
          {data.tags.map((tag) => {
            const colour = tags.find(({ name }) => name === tag.name)?.colour ?? null;
            return (
              <li key={tag.name}>
                {renaming === tag.name ? (
                  <Rename
                    tag={tag}
                    others={data.tags.map(({ name }) => name).filter((name) => name !== tag.name)}
                    close={() => setRenaming(undefined)}
                  />
                ) : (
                  <>
                    <span>
                      <span className={`tag ${colour ? `tag-${colour}` : ''}`}>{tag.name}</span>
                    </span>
                    <span className="tag-colours" role="group" aria-label={`Colour of ${tag.name}`}>
                      {colours.map(({ key, label }) => (
                        <button
                          key={key}
                          type="button"
                          className={`tag tag-${key}`}
                          aria-label={`${label} for ${tag.name}`}
                          aria-pressed={colour === key}
                          title={label}
                          onClick={() => paint(tag.name, colour === key ? null : key)}
                        />
                      ))}
                    </span>
                    <span className="tag-uses">
                      {(Object.entries(tag.uses) as [ObjectKey, number][]).map(([object, uses]) => (
                        <Link
                          key={object}
                          to={listAddress(objectType(object).path, withTag(object, tag.name))}
                        >
                          {counted(
                            uses,
                            objectType(object).label.toLowerCase(),
                            objectType(object).plural.toLowerCase(),
                          )}
                        </Link>
                      ))}
                    </span>
                    <Button
                      size="small"
                      type="text"
                      aria-label={`Rename or merge ${tag.name}`}
                      onClick={() => setRenaming(tag.name)}
                    >
                      Rename or merge
                    </Button>
                  </>
                )}
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}

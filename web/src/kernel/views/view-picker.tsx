import { useQuery } from '@tanstack/react-query';
import { readyMadeFor, type List, type ObjectKey, type View } from '@zawn/core';
import { Popover } from 'antd';
import { ChevronDown } from 'lucide-react';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS, savedViews } from '../../platform/api/queries';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { number } from '../../platform/frame/format';
import { type Option } from '../sentence/options';
import { PickList } from '../sentence/pick-list';
import { useSession } from '../../platform/sessions/session';

/** Where a view or list is gone to: its parameters. */
type Destination = `view=${string}` | `list=${string}`;

const sharedBy = (name: string | undefined, sharing: string) =>
  sharing === 'private' ? undefined : (name ?? 'someone who left');

/** Every view and list of an object, one's own first. */
export function useViewOptions(object: ObjectKey): Option<Destination>[] {
  const { me, person, preferences } = useSession();
  const { data } = useQuery(savedViews);
  const { data: counts } = useQuery({
    queryKey: [RECORDS, 'list-counts'],
    queryFn: ({ signal }) =>
      call<{ lists: { id: number; count: number }[] }>('GET', '/list-counts', { signal }),
  });
  const hidden = new Set(preferences.hiddenLists);
  const of = ({ object: its }: View | List) => its === object;
  const views = (data?.views ?? []).filter(of);
  const saved = (view: View, group: string): Option<Destination> => {
    const by = sharedBy(person(view.owner)?.name, view.sharing);
    return {
      key: `view-${view.id}`,
      label: view.name,
      value: `view=${view.id}`,
      group,
      ...(by ? { hint: by } : {}),
    };
  };
  const lists = (data?.lists ?? []).filter((list) => of(list) && !hidden.has(list.id));
  return [
    ...views.filter(({ owner }) => owner === me.id).map((view) => saved(view, 'Mine')),
    ...views.filter(({ owner }) => owner !== me.id).map((view) => saved(view, 'Shared with me')),
    ...lists.map((list): Option<Destination> => {
      const count = counts?.lists.find(({ id }) => id === list.id)?.count;
      return {
        key: `list-${list.id}`,
        label: list.name,
        value: `list=${list.id}`,
        group: 'Lists',
        ...(count === undefined ? {} : { hint: number(count) }),
      };
    }),
    ...readyMadeFor(object).map(({ key, name }): Option<Destination> => ({
      key,
      label: name,
      value: `view=${key}`,
      group: 'Ready-made',
    })),
  ];
}

/** The name of what is shown, set largest; it opens the views and lists there are. */
export function ViewPicker({ object, name, path }: { object: ObjectKey; name: string; path: string }) {
  const [isOpen, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const options = useViewOptions(object);
  const navigate = useNavigate();
  useShortcuts('List', [{ keys: 'v', does: 'Another view', run: () => setOpen(true) }]);
  return (
    <h1 className="view-name">
      <Popover
        open={isOpen}
        onOpenChange={setOpen}
        trigger="click"
        placement="bottomLeft"
        arrow={false}
        destroyOnHidden
        classNames={{ root: 'token-popover' }}
        content={
          <div
            onKeyDown={(event) => {
              if (event.key !== 'Escape') return;
              setOpen(false);
              button.current?.focus();
            }}
          >
            <PickList
              label="View"
              placeholder="A view or a list"
              options={options}
              onPick={(where) => {
                setOpen(false);
                void navigate(`/${path}?${where}`);
              }}
            />
          </div>
        }
      >
        <button
          ref={button}
          type="button"
          className="view-button"
          aria-haspopup="listbox"
          aria-expanded={isOpen}
        >
          {name}
          <ChevronDown size={18} aria-hidden />
        </button>
      </Popover>
    </h1>
  );
}

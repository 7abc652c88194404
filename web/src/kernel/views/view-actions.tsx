import { completeQuestion, objectType, readyMadeFor, type Design, type Replacement } from '@zawn/core';
import { useQuery } from '@tanstack/react-query';
import { Button, Dropdown, type MenuProps } from 'antd';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { savedViews } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { useBrought } from '../shell/feature';
import { RemoveShared } from './remove-shared';
import { SaveDialog } from './save-dialog';
import { type Shown } from './use-design';

/** `saveAs`, `rename`, `duplicate`, or one that a feature brings. */
type Dialog = string;

/** What can be done with the view or list on the screen: keep it, name it, share it, let it go. */
export function ViewActions({ shown }: { shown: Shown }) {
  const { base, isChanged, reset } = shown;
  const { me, policy, catalogue } = useSession();
  const [dialog, setDialog] = useState<Dialog>();
  const [preferences, setPreferences] = usePreferences();
  const write = useWrite();
  const navigate = useNavigate();
  const { object } = shown.design.question;
  const brought = useBrought('viewActions').filter(({ objects }) => objects.includes(object));
  const Brought = brought.find(({ key }) => key === dialog)?.Dialog;
  const { path } = objectType(object);
  // What is not finished yet is not kept.
  const design: Design = { ...shown.design, question: completeQuestion(catalogue, shown.design.question) };
  const record = base.kind === 'saved' ? base.view : base.kind === 'list' ? base.list : undefined;
  const noun = base.kind === 'list' ? 'list' : ('view' as const);
  const address = record && `/${noun}s/${record.id}`;
  const isMine = record !== undefined && policy.mayChangeShared(noun, record);
  const pin = record && `${noun}-${record.id}`;
  const isPinned = pin !== undefined && (preferences.pinned ?? []).includes(pin);
  const isDefault = base.kind === 'saved' && preferences.defaultViews?.[object] === base.view.id;
  const isHidden = base.kind === 'list' && (preferences.hiddenLists ?? []).includes(base.list.id);

  const save = () => {
    if (base.kind === 'saved' && isMine)
      write.mutate(
        {
          method: 'PATCH',
          path: `/views/${base.view.id}`,
          version: base.view.version,
          body: { design: JSON.stringify(design) },
        },
        { onSuccess: () => void navigate(`/${path}?view=${base.view.id}`, { replace: true }) },
      );
    else setDialog('saveAs');
  };
  const { data: saved } = useQuery({ ...savedViews, enabled: dialog === 'delete' });
  const others: { label: string; value: Replacement }[] = [
    ...(saved?.views ?? [])
      .filter((view) => view.object === object && view.id !== record?.id)
      .map((view) => ({ label: view.name, value: { view: view.id } })),
    ...readyMadeFor(object).map(({ key, name }) => ({ label: name, value: { ready: key } })),
  ];
  useShortcuts('List', [{ keys: 's', does: 'Save the view', run: () => (isChanged ? save() : undefined) }]);

  const items: MenuProps['items'] = [
    { key: 'saveAs', label: 'Save as a new view…' },
    ...(record && isMine ? [{ key: 'rename', label: 'Rename and share…' }] : []),
    ...(record ? [{ key: 'duplicate', label: `Duplicate the ${noun}…` }] : []),
    ...(pin ? [{ key: 'pin', label: isPinned ? 'Take off the rail' : 'Pin to the rail' }] : []),
    ...(base.kind === 'saved'
      ? [
          {
            key: 'default',
            label: isDefault
              ? `Open ${objectType(object).plural} with the usual view`
              : `Open ${objectType(object).plural} with this view`,
          },
        ]
      : []),
    ...(base.kind === 'list' && base.list.owner !== me.id
      ? [{ key: 'hide', label: isHidden ? 'Show in my lists' : 'Hide from my lists' }]
      : []),
    ...brought.map(({ key, label }) => ({ key, label })),
    { key: 'link', label: 'Copy a link' },
    ...(record && isMine
      ? [{ type: 'divider' as const }, { key: 'delete', label: `Delete the ${noun}…`, danger: true }]
      : []),
  ];
  const actions: Record<string, () => void> = {
    ...Object.fromEntries(brought.map(({ key }) => [key, () => setDialog(key)])),
    saveAs: () => setDialog('saveAs'),
    rename: () => setDialog('rename'),
    duplicate: () => setDialog('duplicate'),
    pin: () => {
      const others = (preferences.pinned ?? []).filter((each) => each !== pin);
      void setPreferences({ pinned: isPinned || !pin ? others : [...others, pin] });
    },
    default: () => {
      if (base.kind !== 'saved') return;
      const { [object]: _own, ...others } = preferences.defaultViews ?? {};
      void setPreferences({ defaultViews: isDefault ? others : { ...others, [object]: base.view.id } });
    },
    hide: () => {
      if (base.kind !== 'list') return;
      const others = (preferences.hiddenLists ?? []).filter((id) => id !== base.list.id);
      void setPreferences({ hiddenLists: isHidden ? others : [...others, base.list.id] });
    },
    link: () => void navigator.clipboard.writeText(location.href),
    delete: () => setDialog('delete'),
  };
  const plainName = base.kind === 'unsaved' || base.kind === 'gone' ? '' : base.name;
  const isCopyOfList = dialog === 'duplicate' && base.kind === 'list';
  return (
    <>
      {isChanged && (
        <>
          {base.kind !== 'unsaved' && (
            <Button type="text" onClick={reset}>
              Discard changes
            </Button>
          )}
          <Button onClick={save}>{base.kind === 'saved' && isMine ? 'Save' : 'Save view'}</Button>
        </>
      )}
      <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => actions[key]() }}>
        <Button icon={<Ellipsis size={16} />} aria-label="View actions" />
      </Dropdown>
      {Brought && (
        <Brought question={shown.design.question} name={plainName} close={() => setDialog(undefined)} />
      )}
      {dialog === 'delete' && record && (
        <RemoveShared
          noun={noun}
          record={record}
          {...(noun === 'view' ? { shown: { of: { view: record.id }, instead: others } } : {})}
          stays="Its records stay. This can be undone."
          onRemoved={() => void navigate(`/${path}`)}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'rename' && record && address && (
        <SaveDialog
          title={`Rename and share the ${noun}`}
          action={`Save ${noun}`}
          name={record.name}
          sharing={record.sharing}
          existing={{ path: address, version: record.version }}
          onSaved={() => undefined}
          close={() => setDialog(undefined)}
        />
      )}
      {(dialog === 'saveAs' || dialog === 'duplicate') && !isCopyOfList && (
        <SaveDialog
          title={dialog === 'saveAs' ? 'Save as a new view' : 'Duplicate the view'}
          action="Save view"
          name={dialog === 'duplicate' || base.kind === 'ready' ? `${plainName}, copy` : ''}
          sharing="private"
          making={{ path: 'views', object, design }}
          onSaved={(id) => void navigate(`/${path}?view=${id}`)}
          close={() => setDialog(undefined)}
        />
      )}
      {isCopyOfList && base.kind === 'list' && (
        <SaveDialog
          title="Duplicate the list"
          action="Save list"
          name={`${plainName}, copy`}
          sharing="private"
          making={{ path: 'lists', object }}
          onSaved={(id) => {
            const selection = { question: base.design.question };
            write.mutate({
              method: 'POST',
              path: '/bulk',
              body: { object, selection, action: { do: 'addToList', list: id } },
            });
            void navigate(`/${path}?list=${id}`);
          }}
          close={() => setDialog(undefined)}
        />
      )}
    </>
  );
}

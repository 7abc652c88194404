import { useQuery } from '@tanstack/react-query';
import { readyDashboards, type Replacement } from '@zawn/core';
import { App, Button, Dropdown, Modal, type MenuProps } from 'antd';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { RemoveShared } from '../../kernel/views/remove-shared';
import { SaveDialog } from '../../kernel/views/save-dialog';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';
import { usePreferences } from '../../platform/sessions/use-preferences';
import { keptDashboards } from './queries';
import { type ShownDashboard } from './use-dashboard';

interface Props {
  shown: ShownDashboard;
  name: string;
  about: string;
  /** What the dashboard is called in its address. */
  home: string;
  nameOfTile: (key: string) => string;
  print: () => void;
  turn: () => void;
  onSaved: () => void;
}

/** What can be done with the dashboard on the screen: keep it, share it, begin with it, let it go. */
export function DashboardActions({ shown, name, about, home, nameOfTile, print, turn, onSaved }: Props) {
  const { base, design, isChanged, reset, save, isSaving, clash, settle } = shown;
  const { policy } = useSession();
  const { modal } = App.useApp();
  const [preferences, setPreferences] = usePreferences();
  const [dialog, setDialog] = useState<'saveAs' | 'rename' | 'delete'>();
  const navigate = useNavigate();
  const kept = base.kind === 'kept' ? base.dashboard : undefined;
  const isMine = kept !== undefined && policy.mayChangeShared('dashboard', kept);
  const { data: all = [] } = useQuery({ ...keptDashboards, enabled: dialog === 'delete' });
  const others: { label: string; value: Replacement }[] = [
    ...all
      .filter(({ id }) => id !== kept?.id)
      .map((each) => ({ label: each.name, value: { dashboard: each.id } })),
    ...readyDashboards.map((ready) => ({ label: ready.name, value: { ready: ready.key } })),
  ];
  const isHome = preferences.home === home;
  const keep = () => (isMine ? save(onSaved) : setDialog('saveAs'));
  const discard = () =>
    void modal.confirm({
      title: 'Discard what was changed?',
      content: 'The tiles are again as they were kept last.',
      okText: 'Discard changes',
      onOk: () => reset(),
    });
  useShortcuts('Dashboard', [
    { keys: 's', does: 'Save the dashboard', run: () => (isChanged ? keep() : undefined) },
  ]);
  const items: MenuProps['items'] = [
    { key: 'saveAs', label: 'Save as a dashboard of my own…' },
    ...(kept && isMine ? [{ key: 'rename', label: 'Rename and share…' }] : []),
    ...(base.kind === 'new'
      ? []
      : [{ key: 'home', label: isHome ? 'Open Zawn with Today again' : 'Open Zawn with this dashboard' }]),
    { key: 'turn', label: 'Full screen, in turn…' },
    { key: 'link', label: 'Copy a link' },
    { key: 'print', label: 'Print' },
    ...(kept && isMine
      ? [{ type: 'divider' as const }, { key: 'delete', label: 'Delete the dashboard…', danger: true }]
      : []),
  ];
  const actions: Record<string, () => void> = {
    saveAs: () => setDialog('saveAs'),
    rename: () => setDialog('rename'),
    home: () => void setPreferences({ home: isHome ? null : home }),
    turn,
    link: () => void navigator.clipboard.writeText(location.href),
    print,
    delete: () => setDialog('delete'),
  };
  return (
    <>
      {isChanged && (
        <>
          {base.kind !== 'new' && (
            <Button type="text" onClick={discard}>
              Discard changes
            </Button>
          )}
          <Button onClick={keep} loading={isSaving}>
            {isMine ? 'Save' : 'Save dashboard'}
          </Button>
        </>
      )}
      <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => actions[key]() }}>
        <Button icon={<Ellipsis size={16} />} aria-label="Dashboard actions" />
      </Dropdown>
      {dialog === 'saveAs' && (
        <SaveDialog
          title="Save as a dashboard"
          action="Save dashboard"
          name={base.kind === 'new' ? '' : base.kind === 'ready' ? `${name}, mine` : `${name}, copy`}
          about={about}
          sharing="private"
          teams={[]}
          making={{ path: 'dashboards', design }}
          onSaved={(id) => {
            reset();
            onSaved();
            void navigate(`/dashboards/${id}`);
          }}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'rename' && kept && (
        <SaveDialog
          title="Rename and share the dashboard"
          action="Save dashboard"
          name={kept.name}
          about={kept.about ?? ''}
          sharing={kept.sharing}
          teams={kept.teams ?? []}
          existing={{ path: `/dashboards/${kept.id}`, version: kept.version }}
          onSaved={() => undefined}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'delete' && kept && (
        <RemoveShared
          noun="dashboard"
          record={kept}
          shown={{ of: { dashboard: kept.id }, instead: others }}
          stays="What its tiles show stays. This can be undone."
          onRemoved={() => void navigate('/dashboards')}
          close={() => setDialog(undefined)}
        />
      )}
      {clash && (
        <Modal
          open
          title="Somebody changed this dashboard meanwhile"
          okText="Keep mine for these tiles"
          cancelText="Take theirs, discard mine"
          onOk={() => settle('mine', onSaved)}
          onCancel={() => settle('theirs', onSaved)}
          closable={false}
          mask={{ closable: false }}
          keyboard={false}
        >
          <p>
            You both changed {clash.keys.map((key) => `“${nameOfTile(key)}”`).join(', ')}. All other tiles are
            put together: yours as you left them, theirs as they left them.
          </p>
        </Modal>
      )}
    </>
  );
}

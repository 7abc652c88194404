import { useQuery } from '@tanstack/react-query';
import { objectType, readyReports, type Replacement } from '@zawn/core';
import { Button, Dropdown, type MenuProps } from 'antd';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { RemoveShared } from '../../kernel/views/remove-shared';
import { SaveDialog } from '../../kernel/views/save-dialog';
import { useWrite } from '../../platform/api/use-write';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';
import { FreezeDialog } from '../snapshots/freeze-dialog';
import { keptReports } from './report-queries';
import { type ShownReport } from './use-report';

/** What can be done with the report on the screen: keep it, call it otherwise, share it, let it go. */
export function ReportActions({ shown }: { shown: ShownReport }) {
  const { base, asked, isChanged, reset } = shown;
  const { policy } = useSession();
  const [dialog, setDialog] = useState<'saveAs' | 'rename' | 'freeze' | 'delete'>();
  const write = useWrite();
  const navigate = useNavigate();
  const kept = base.kind === 'kept' ? base.report : undefined;
  const isMine = kept !== undefined && policy.mayChangeShared('report', kept);
  const save = () => {
    if (!kept || !isMine) {
      setDialog('saveAs');
      return;
    }
    write.mutate(
      {
        method: 'PATCH',
        path: `/reports/${kept.id}`,
        version: kept.version,
        body: { design: JSON.stringify(asked) },
      },
      { onSuccess: () => void navigate(`/reports/${kept.id}`, { replace: true }) },
    );
  };
  const { data: all = [] } = useQuery({ ...keptReports, enabled: dialog === 'delete' });
  const others: { label: string; value: Replacement }[] = [
    ...all
      .filter(({ id }) => id !== kept?.id)
      .map(({ id, name }) => ({ label: name, value: { report: id } })),
    ...readyReports.map(({ key, name }) => ({ label: name, value: { ready: key } })),
  ];
  useShortcuts('Report', [
    { keys: 's', does: 'Save the report', run: () => (isChanged ? save() : undefined) },
    { keys: 'f', does: 'Freeze the report', run: () => setDialog('freeze') },
  ]);
  const items: MenuProps['items'] = [
    { key: 'saveAs', label: 'Save as a report of my own…' },
    ...(policy.allows('snapshot', 'add') ? [{ key: 'freeze', label: 'Freeze…' }] : []),
    ...(kept && isMine ? [{ key: 'rename', label: 'Rename and share…' }] : []),
    { key: 'link', label: 'Copy a link' },
    { key: 'print', label: 'Print' },
    ...(kept && isMine
      ? [{ type: 'divider' as const }, { key: 'delete', label: 'Delete the report…', danger: true }]
      : []),
  ];
  const actions: Record<string, () => void> = {
    saveAs: () => setDialog('saveAs'),
    rename: () => setDialog('rename'),
    freeze: () => setDialog('freeze'),
    link: () => void navigator.clipboard.writeText(location.href),
    print: () => window.print(),
    delete: () => setDialog('delete'),
  };
  const about = base.kind === 'ready' ? base.ready.about : (kept?.about ?? '');
  const name = base.kind === 'ready' ? `${base.ready.name}, mine` : kept ? `${kept.name}, copy` : '';
  return (
    <>
      {isChanged && (
        <>
          {base.kind !== 'new' && (
            <Button type="text" onClick={reset}>
              Discard changes
            </Button>
          )}
          <Button onClick={save}>{kept && isMine ? 'Save' : 'Save report'}</Button>
        </>
      )}
      <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => actions[key]() }}>
        <Button icon={<Ellipsis size={16} />} aria-label="Report actions" />
      </Dropdown>
      {dialog === 'freeze' && (
        <FreezeDialog
          design={asked}
          name={base.kind === 'ready' ? base.ready.name : (kept?.name ?? 'A report')}
          about={about}
          report={kept?.id}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'delete' && kept && (
        <RemoveShared
          noun="report"
          record={kept}
          shown={{ of: { report: kept.id }, instead: others }}
          stays={`The ${objectType(kept.object).plural.toLowerCase()} it is about stay. This can be undone.`}
          onRemoved={() => void navigate('/reports')}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'rename' && kept && (
        <SaveDialog
          title="Rename and share the report"
          action="Save report"
          name={kept.name}
          about={kept.about ?? ''}
          sharing={kept.sharing}
          teams={kept.teams ?? []}
          existing={{ path: `/reports/${kept.id}`, version: kept.version }}
          onSaved={() => undefined}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'saveAs' && (
        <SaveDialog
          title="Save as a report"
          action="Save report"
          name={name}
          about={about}
          sharing="private"
          teams={[]}
          making={{ path: 'reports', object: asked.question.object, design: asked }}
          onSaved={(id) => void navigate(`/reports/${id}`)}
          close={() => setDialog(undefined)}
        />
      )}
    </>
  );
}

import { useQuery } from '@tanstack/react-query';
import { type Snapshot } from '@zawn/core';
import { Button, Dropdown, Select, type MenuProps } from 'antd';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { download, ApiProblem } from '../../platform/api/client';
import { RemoveShared } from '../../kernel/views/remove-shared';
import { oneRecord } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { date } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { drawingAsPng, inBase64 } from '../reports/drawing-file';
import { ExportButton, figureFiles } from '../reports/export-button';
import '../reports/reports.css';
import { MoveDialog } from './folder-actions';
import { inOrderOfTree, pathOfFolder, treeOf } from './folder-tree';
import { useTakenInWords } from './folders-page';
import { FrozenRecords } from './frozen-records';
import { FrozenReport } from './frozen-report';
import { placeAddress, usePlace } from './place-address';
import { frozenAnswer, keptFolders, snapshotsOf } from './queries';
import { RenameDialog } from './rename-dialog';
import './snapshots.css';
import { takenFor } from './words';

/** A snapshot: the report as it was, its records beside it, and what it can be compared with. */
export function Component() {
  const { id: text } = useParams();
  const id = Number(text);
  const { data: found, error } = useQuery(oneRecord('snapshot', id));
  const snapshot = found?.record as Snapshot | undefined;
  if (error instanceof ApiProblem && error.problem.status === 404)
    return (
      <Empty title="This snapshot is gone, or is not shared with you.">
        <Link to="/snapshots">See all snapshots</Link>
      </Empty>
    );
  return snapshot ? <SnapshotPage key={id} snapshot={snapshot} /> : <Skeleton rows={12} />;
}

function SnapshotPage({ snapshot }: { snapshot: Snapshot }) {
  const { data: frozen, error, refetch } = useQuery(frozenAnswer(snapshot.id));
  const { data: folders = [] } = useQuery(keptFolders);
  const { teams, policy } = useSession();
  const taken = useTakenInWords();
  const { place, close } = usePlace();
  const folder = folders.find(({ id }) => id === snapshot.folder);
  const teamName = (id: number) => teams.find((each) => each.id === id)?.name ?? 'a team that is gone';
  return (
    <div className={place ? 'report-page report-page-beside' : 'report-page'}>
      <div className="report">
        <header className="page-head view-head">
          <h1>{snapshot.name}</h1>
          <span className="page-count">
            {folder && <Link to={`/snapshots?folder=${folder.id}`}>{pathOfFolder(folder, folders)}</Link>}
          </span>
          <div className="page-tools">
            <CompareWith snapshot={snapshot} />
            {frozen && policy.allows(frozen.design.question.object, 'export') && (
              <SnapshotExport snapshot={snapshot} isDrawn={frozen.design.draw !== 'none'} />
            )}
            <SnapshotActions snapshot={snapshot} />
          </div>
        </header>
        {snapshot.about && <p className="report-about second">{snapshot.about}</p>}
        <p className="frozen-line">
          <b>{taken(snapshot)}.</b> {takenFor(snapshot, folder, teamName)}.
        </p>
        <div className="report-body frozen-body">
          {error ? (
            <Trouble error={error} retry={() => void refetch()} />
          ) : frozen ? (
            <FrozenReport frozen={frozen} addressOf={(at) => placeAddress(at)} />
          ) : (
            <Skeleton rows={10} />
          )}
        </div>
      </div>
      {place && <FrozenRecords snapshot={snapshot.id} place={place} close={close} />}
    </div>
  );
}

/** What a snapshot can be put beside: now, or another snapshot of the same kind of records. */
function CompareWith({ snapshot }: { snapshot: Snapshot }) {
  const { data: others = [] } = useQuery(snapshotsOf(snapshot.object));
  const { dayOf } = useSession();
  const navigate = useNavigate();
  return (
    <Select
      aria-label="Compare with"
      className="compare-with"
      placeholder="Compare with…"
      value={null}
      showSearch={{ optionFilterProp: 'label' }}
      popupMatchSelectWidth={360}
      onChange={(other: string) => void navigate(`/snapshots/${snapshot.id}/compare?with=${other}`)}
      options={[
        { value: 'now', label: 'How it is now' },
        ...others
          .filter(({ id }) => id !== snapshot.id)
          .map(({ id, name, takenAt }) => ({
            value: String(id),
            label: name.includes(date(dayOf(takenAt))) ? name : `${name}, ${date(dayOf(takenAt))}`,
          })),
      ]}
    />
  );
}

/** Takes a snapshot out as a file: its figures, or its records. */
function SnapshotExport({ snapshot, isDrawn }: { snapshot: Snapshot; isDrawn: boolean }) {
  const take = async (key: string) => {
    const drawing = isDrawn ? document.querySelector('.report-drawing') : null;
    const png = drawing && (key === 'pdf' || key === 'xlsx') ? await drawingAsPng(drawing) : undefined;
    await download(`/snapshots/${snapshot.id}/file`, {
      format: key === 'records' ? 'csv' : key,
      ...(key === 'records' ? { records: true } : {}),
      ...(png ? { drawing: await inBase64(png) } : {}),
    });
  };
  const files = [...figureFiles, { key: 'records', label: 'Records as they were, CSV' }];
  return <ExportButton files={files} take={take} />;
}

/** What can be done with a snapshot: call it otherwise, move it, delete it. Its figures stay as they are. */
function SnapshotActions({ snapshot }: { snapshot: Snapshot }) {
  const { policy } = useSession();
  const { data: folders = [] } = useQuery(keptFolders);
  const write = useWrite();
  const navigate = useNavigate();
  const [dialog, setDialog] = useState<'rename' | 'move' | 'delete'>();
  const { data: others = [] } = useQuery({ ...snapshotsOf(snapshot.object), enabled: dialog === 'delete' });
  const path = `/snapshots/${snapshot.id}`;
  const { version } = snapshot;
  const isMine = policy.mayChangeShared('snapshot', snapshot);
  const items: MenuProps['items'] = [
    { key: 'link', label: 'Copy a link' },
    { key: 'print', label: 'Print' },
    ...(isMine
      ? [
          { key: 'rename', label: 'Rename…' },
          { key: 'move', label: 'Move to another folder…' },
          { type: 'divider' as const },
          { key: 'delete', label: 'Delete the snapshot…', danger: true },
        ]
      : []),
  ];
  const actions: Record<string, () => void> = {
    link: () => void navigator.clipboard.writeText(location.href),
    print: () => window.print(),
    rename: () => setDialog('rename'),
    move: () => setDialog('move'),
    delete: () => setDialog('delete'),
  };
  return (
    <>
      <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => actions[key]() }}>
        <Button icon={<Ellipsis size={16} />} aria-label="Snapshot actions" />
      </Dropdown>
      {dialog === 'rename' && (
        <RenameDialog
          title="Rename the snapshot"
          name={snapshot.name}
          maxLength={120}
          save={(name) => write.mutate({ method: 'PATCH', path, version, body: { name } })}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'delete' && (
        <RemoveShared
          noun="snapshot"
          record={snapshot}
          shown={{
            of: { snapshot: snapshot.id },
            instead: others
              .filter(({ id }) => id !== snapshot.id)
              .map(({ id, name }) => ({ label: name, value: { snapshot: id } })),
          }}
          stays="What it kept cannot be taken again: it is of a moment that is past. This can be undone."
          onRemoved={() => void navigate(`/snapshots?folder=${snapshot.folder}`)}
          close={() => setDialog(undefined)}
        />
      )}
      {dialog === 'move' && (
        <MoveDialog
          title={`Move “${snapshot.name}”`}
          at={snapshot.folder}
          options={inOrderOfTree(treeOf(folders)).map(({ folder }) => ({
            value: folder.id,
            label: pathOfFolder(folder, folders),
          }))}
          move={(folder) => write.mutate({ method: 'PATCH', path, version, body: { folder } })}
          close={() => setDialog(undefined)}
        />
      )}
    </>
  );
}

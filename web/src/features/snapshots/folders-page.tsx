import { useQuery } from '@tanstack/react-query';
import { objectType, type ObjectKey, type Snapshot } from '@zawn/core';
import { Button } from 'antd';
import { Folder as FolderSign, FolderPlus } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { SaveDialog } from '../../kernel/views/save-dialog';
import { clock, counted, date, number } from '../../platform/frame/format';
import { Empty, Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { FolderActions } from './folder-actions';
import { inOrderOfTree, pathOfFolder, treeOf, type FolderNode } from './folder-tree';
import { Plans } from './plans';
import { keptFolders, snapshotsIn } from './queries';
import './snapshots.css';

/** Snapshots by the folders they lie in: the tree, and what is in the folder that is open. */
export function Component() {
  const { data: folders } = useQuery(keptFolders);
  const [parameters] = useSearchParams();
  const navigate = useNavigate();
  const [isMaking, setMaking] = useState(false);
  const wanted = Number(parameters.get('folder'));
  if (!folders) return <Skeleton rows={10} />;
  const chosen = folders.find(({ id }) => id === wanted);
  const open = wanted ? chosen : inOrderOfTree(treeOf(folders)).at(0)?.folder;
  return (
    <>
      <header className="page-head">
        <h1>Snapshots</h1>
        <span className="page-count" role="status">
          {counted(folders.length, 'folder')}
        </span>
        <div className="page-tools">
          <Button icon={<FolderPlus size={15} />} onClick={() => setMaking(true)}>
            New folder
          </Button>
        </div>
      </header>
      {folders.length === 0 ? (
        <Empty title="Nothing is frozen yet.">
          <p>
            A snapshot keeps what a report says on one day, with every record behind its figures, to be
            compared with another day. Open a report and choose “Freeze” from its actions.
          </p>
          <Link to="/reports">See all reports</Link>
        </Empty>
      ) : (
        <div className="snapshots-page">
          <nav className="folder-tree" aria-label="Folders">
            <Branch nodes={treeOf(folders)} open={open?.id} />
          </nav>
          <div className="folder-body">
            {open ? (
              <>
                <header className="folder-head">
                  <h2>{pathOfFolder(open, folders)}</h2>
                  <SharedWith folder={open} />
                  <FolderActions key={open.id} folder={open} />
                </header>
                <Plans folder={open} />
                <Snapshots folder={open.id} />
              </>
            ) : (
              <Empty title="This folder is gone, or is not shared with you." />
            )}
          </div>
        </div>
      )}
      {isMaking && (
        <SaveDialog
          title={chosen ? `A new folder in “${chosen.name}”` : 'A new folder'}
          action="Make folder"
          name=""
          sharing={chosen?.sharing ?? 'private'}
          teams={chosen?.teams ?? []}
          making={{ path: 'folders', more: chosen ? { parent: chosen.id } : {} }}
          onSaved={(id) => void navigate(`/snapshots?folder=${id}`)}
          close={() => setMaking(false)}
        />
      )}
    </>
  );
}

function Branch({ nodes, open }: { nodes: readonly FolderNode[]; open: number | undefined }) {
  return (
    <ul>
      {nodes.map(({ folder, inside }) => (
        <li key={folder.id}>
          <Link
            to={`/snapshots?folder=${folder.id}`}
            aria-current={folder.id === open ? 'page' : undefined}
            className="folder-link"
          >
            <FolderSign size={14} aria-hidden /> <span className="clip">{folder.name}</span>
          </Link>
          {inside.length > 0 && <Branch nodes={inside} open={open} />}
        </li>
      ))}
    </ul>
  );
}

/** Who sees a folder and what is in it. */
function SharedWith({
  folder,
}: {
  folder: { sharing: string; team: number | null; teams: readonly string[] | null; owner: number };
}) {
  const { teams, person, me } = useSession();
  const named = (id: number) => teams.find((each) => each.id === id)?.name ?? 'a team that is gone';
  const words =
    folder.sharing === 'everyone'
      ? 'Seen by everyone'
      : folder.sharing === 'team'
        ? `Seen by ${named(folder.team ?? 0)}`
        : folder.sharing === 'teams'
          ? `Seen by ${(folder.teams ?? []).map((id) => named(Number(id))).join(', ')}`
          : 'Seen by you alone';
  const whose = folder.owner === me.id ? '' : `, ${person(folder.owner)?.name ?? 'someone who left'}’s`;
  return (
    <span className="second">
      {words}
      {whose}
    </span>
  );
}

/** What a snapshot is of, when it was taken and by whom. */
export function useTakenInWords(): (snapshot: Snapshot) => string {
  const { person, dayOf, timeZone } = useSession();
  return ({ takenAt, dueAt, owner, plan }) =>
    [
      `Taken ${date(dayOf(takenAt))}, ${clock(takenAt, timeZone)}`,
      plan === null ? `by ${person(owner)?.name ?? 'someone who left'}` : 'on a schedule',
      ...(dueAt ? [`late: it was due ${date(dayOf(dueAt))}, ${clock(dueAt, timeZone)}`] : []),
    ].join(' ');
}

function Snapshots({ folder }: { folder: number }) {
  const { data: snapshots } = useQuery(snapshotsIn(folder));
  const taken = useTakenInWords();
  if (!snapshots) return <Skeleton rows={6} />;
  if (snapshots.length === 0) return <Empty title="No snapshots in this folder." />;
  return (
    <ul className="snapshot-list">
      {snapshots.map((snapshot) => (
        <li key={snapshot.id}>
          <Link to={`/snapshots/${snapshot.id}`}>{snapshot.name}</Link>
          <span className="figure second">
            {number(snapshot.records ?? 0)}{' '}
            {objectType(snapshot.object as ObjectKey)[
              snapshot.records === 1 ? 'label' : 'plural'
            ].toLowerCase()}
          </span>
          <p className="second">{taken(snapshot)}</p>
        </li>
      ))}
    </ul>
  );
}

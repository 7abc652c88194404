import { objectType } from '@zawn/core';
import { Button } from 'antd';
import { CalendarPlus, Flag, ListMinus, ListPlus, PencilLine, Tag, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { number } from '../../platform/frame/format';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { useSession } from '../../platform/sessions/session';
import { BulkDialog, type BulkTask } from './bulk-dialog';
import './bulk.css';
import { ListDialog } from './list-dialog';
import { type MarkedRowsProps } from '../../kernel/shell/feature';
import { markedCount, noMarks, selectionOf } from '../../kernel/records/marks';
import { useBulk } from './use-bulk';
import { lazyPart } from '../../platform/frame/lazy-part';

const CloseDialog = lazyPart(async () => (await import('./close-dialog')).default);

/** What can be done with the marked rows. It stands at the foot while any are marked. */
export function BulkBar({ object, question, total, marks, setMarks, list, exportMarked }: MarkedRowsProps) {
  const { policy } = useSession();
  const [task, setTask] = useState<BulkTask | 'list' | 'close'>();
  const bulk = useBulk();
  const count = markedCount(marks, total);
  const { label, plural } = objectType(object);
  const what = `${number(count)} ${(count === 1 ? label : plural).toLowerCase()}`;
  const selection = selectionOf(marks, question);
  const clear = () => setMarks(noMarks);
  useShortcuts('Marked', [
    { keys: 'b', does: 'Change a field of the marked', run: () => count > 0 && setTask('change') },
    { keys: 'l', does: 'Put the marked on a list', run: () => count > 0 && setTask('list') },
    { keys: 'Delete', does: 'Delete the marked', run: () => count > 0 && setTask('delete') },
  ]);
  if (count === 0) return null;
  const canEdit = policy.allows(object, 'edit');
  const canPlan = object !== 'activity' && policy.allows('activity', 'add');
  const canClose = object === 'deal' && canEdit && policy.may('closeDeals');
  const canTag = object !== 'activity' && canEdit;
  return (
    <div className="bulk-bar" role="toolbar" aria-label="Marked rows">
      <b>{what}</b> <span className="second">{marks.all ? 'all that match' : 'marked'}</span>
      {canEdit && (
        <Button size="small" icon={<PencilLine size={13} />} onClick={() => setTask('change')}>
          Change
        </Button>
      )}
      {canTag && (
        <Button size="small" icon={<Tag size={13} />} onClick={() => setTask('tag')}>
          Tag
        </Button>
      )}
      {canPlan && (
        <Button size="small" icon={<CalendarPlus size={13} />} onClick={() => setTask('plan')}>
          Plan
        </Button>
      )}
      {canClose && (
        <Button size="small" icon={<Flag size={13} />} onClick={() => setTask('close')}>
          Close
        </Button>
      )}
      <Button size="small" icon={<ListPlus size={13} />} onClick={() => setTask('list')}>
        Put on a list
      </Button>
      {list && (
        <Button
          size="small"
          icon={<ListMinus size={13} />}
          onClick={() =>
            void bulk({ object, selection, action: { do: 'takeFromList', list: list.id } }).then(
              (isDone) => isDone && clear(),
            )
          }
        >
          Take off this list
        </Button>
      )}
      {policy.allows(object, 'export') && exportMarked}
      {policy.allows(object, 'delete') && (
        <Button size="small" danger icon={<Trash2 size={13} />} onClick={() => setTask('delete')}>
          Delete
        </Button>
      )}
      <Button
        size="small"
        type="text"
        icon={<X size={14} />}
        onClick={clear}
        aria-label="Take all marks away"
      />
      {task === 'list' && (
        <ListDialog
          object={object}
          what={what}
          selection={selection}
          onDone={clear}
          close={() => setTask(undefined)}
        />
      )}
      {task === 'close' && (
        <CloseDialog what={what} selection={selection} onDone={clear} close={() => setTask(undefined)} />
      )}
      {task && task !== 'list' && task !== 'close' && (
        <BulkDialog
          task={task}
          object={object}
          what={what}
          selection={selection}
          onDone={clear}
          close={() => setTask(undefined)}
        />
      )}
    </div>
  );
}

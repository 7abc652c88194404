import { ask, leftOutInWords, runnable, type Condition, type ObjectKey } from '@zawn/core';
import { useSession } from '../../platform/sessions/session';

/** Says that a rule counts for nobody, while a field that its condition asks about is gone. */
export function Asleep({ where, object = 'lead' }: { where: Condition | undefined; object?: ObjectKey }) {
  const { catalogue } = useSession();
  if (!where) return null;
  // Which lists are shared is the server's to know; a list that is gone shows in the condition itself.
  const { leftOut } = runnable(ask(object, where), { catalogue, lists: [] });
  const gone = leftOut.filter(({ reason }) => reason === 'unknownField');
  if (gone.length === 0) return null;
  return (
    <p className="attention" role="status">
      Counts for nobody: {gone.map(leftOutInWords).join('. ')}. Change the condition, or bring the field back.
    </p>
  );
}

import { readinessOf, stillWrong } from '@zawn/core';
import { percent } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { Kinds, useUpkeep } from './kinds';

/** How ready the records are, and what is wrong with them, worst first: upkeep beside other things. */
export function UpkeepInBrief() {
  const { kinds, counts, error, refetch } = useUpkeep();
  if (error) return <Trouble error={error} retry={refetch} />;
  if (!counts || !kinds) return <Skeleton rows={4} />;
  const { ready } = readinessOf(kinds, counts.all);
  const open = stillWrong(kinds, counts);
  return (
    <div className="upkeep-in-brief">
      <p>
        {ready === null ? (
          'Nothing is on file yet that could be put right.'
        ) : (
          <>
            <b>{percent(ready)}</b> ready for reports
          </>
        )}
      </p>
      {open.length > 0 && <Kinds counts={counts.all} kinds={open} />}
    </div>
  );
}

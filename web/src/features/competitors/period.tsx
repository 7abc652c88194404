import { type RelativeSpan } from '@zawn/core';
import { Segmented } from 'antd';
import { useSearchParams } from 'react-router';

const YEAR: RelativeSpan = { direction: 'last', count: 12, unit: 'month' };
const [LATELY, EVER] = ['lately', 'ever'];

/** The days whose closed deals count, kept in the address: the last twelve months, or all there are. */
export function useClosedWithin(): { since: RelativeSpan | undefined; search: string } {
  const [parameters] = useSearchParams();
  const isEver = parameters.get('closed') === EVER;
  return { since: isEver ? undefined : YEAR, search: isEver ? `?closed=${EVER}` : '' };
}

/** Chooses them. */
export function ClosedWithin() {
  const [parameters, setParameters] = useSearchParams();
  return (
    <Segmented
      size="small"
      value={parameters.get('closed') === EVER ? EVER : LATELY}
      options={[
        { value: LATELY, label: 'Closed in the last 12 months' },
        { value: EVER, label: 'All' },
      ]}
      aria-label="Which closed deals count"
      onChange={(value) => setParameters(value === EVER ? { closed: EVER } : {}, { replace: true })}
    />
  );
}

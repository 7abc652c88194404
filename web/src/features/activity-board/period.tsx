import { comparedPeriods, type Compared, type PeriodUnit } from '@zawn/core';
import { Button, Select } from 'antd';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { periodLabel } from '../../kernel/drawings/key-label';
import { useSession } from '../../platform/sessions/session';

const units = [
  { value: 'week', label: 'Week' },
  { value: 'month', label: 'Month' },
  { value: 'fiscalQuarter', label: 'Fiscal quarter' },
  { value: 'fiscalYear', label: 'Fiscal year' },
] as const satisfies readonly { value: PeriodUnit; label: string }[];

type Unit = (typeof units)[number]['value'];

/** Years one can go back. */
const FARTHEST = -520;

interface Chosen {
  unit: Unit;
  offset: number;
  compared: Compared;
}

/** The period that the address says, and the one before. */
export function useChosenPeriod(): Chosen {
  const { today, organisation } = useSession();
  const [parameters] = useSearchParams();
  const unit = units.find(({ value }) => value === parameters.get('by'))?.value ?? 'month';
  const back = Number(parameters.get('back') ?? 0);
  const offset = Number.isInteger(back) && back > 0 ? Math.max(-back, FARTHEST) : 0;
  const compared = useMemo(
    () => comparedPeriods(unit, offset, today, organisation),
    [unit, offset, today, organisation],
  );
  return { unit, offset, compared };
}

/** Chooses the period: its length, and one after the other. */
export function ChoosePeriod() {
  const { organisation } = useSession();
  const [, setParameters] = useSearchParams();
  const { unit, offset, compared } = useChosenPeriod();
  const go = (to: { by?: Unit; back?: number }) =>
    setParameters(
      (before) => {
        if (to.by) before.set('by', to.by);
        if (to.back) before.set('back', String(to.back));
        else before.delete('back');
        return before;
      },
      { replace: true },
    );
  return (
    <>
      <Button
        icon={<ChevronLeft size={15} />}
        aria-label="The period before"
        onClick={() => go({ back: 1 - offset })}
      />
      <b className="board-period">{periodLabel(compared.now.from, unit, organisation)}</b>
      <Button
        icon={<ChevronRight size={15} />}
        aria-label="The next period"
        disabled={offset === 0}
        onClick={() => go({ back: -offset - 1 })}
      />
      <Select<Unit> value={unit} options={[...units]} onChange={(by) => go({ by })} aria-label="Length" />
    </>
  );
}

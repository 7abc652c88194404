import { type CellPartProps } from '../../kernel/shell/feature';
import { LogCall } from './log-form';
import { NextStep } from './next-step';
import { PlanForm } from './plan-form';

/** Plans the next step from where a table says that there is none; finishes it from where it says when it is. */
export const NextInCell = ({ close, ...sheet }: CellPartProps) =>
  sheet.record.nextStepOn === null ? (
    <PlanForm on={{ object: sheet.object, id: sheet.record.id }} close={close} />
  ) : (
    <NextStep {...sheet} />
  );

/** Logs a call from where a table says when somebody was touched. */
export const CallInCell = ({ object, record: { id }, close }: CellPartProps) => (
  <LogCall on={{ object, id }} close={close} />
);

import { linesValue, valueAfter, type AnyRecord, type ValueChange, type ValueSaid } from '@zawn/core';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type Parts } from '../../kernel/records/parts';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

const FAULTS = {
  'no lines': { field: 'valueFrom', message: 'Value from: the deal has no lines that it could come from' },
  'lines count': {
    field: 'value',
    message: 'Value: it comes from the lines. Change those, or say that it is typed in',
  },
};

const saidOf = (deal: AnyRecord): ValueSaid => ({
  value: Number(deal.value),
  valueFrom: deal.valueFrom === 'lines' ? 'lines' : 'typed',
  typedValue: deal.typedValue === null ? null : Number(deal.typedValue),
  linesValue: deal.linesValue === null ? null : Number(deal.linesValue),
});

/** What is said anew about the value, its lines as they will stand among it. */
function changeIn(next: Values, lines: readonly Values[] | undefined): ValueChange {
  const change: ValueChange = {};
  if (typeof next.value === 'number') change.value = next.value;
  if ('valueFrom' in next) change.valueFrom = next.valueFrom === 'lines' ? 'lines' : 'typed';
  if (!lines) return change;
  const total = linesValue(
    lines.map((line) => ({ quantity: Number(line.quantity), unitPrice: Number(line.unitPrice) })),
  );
  if (total === undefined)
    throw invalidInput([
      { field: 'lines', message: 'Lines: together they come to more than can be counted' },
    ]);
  return { ...change, linesValue: total };
}

/** Completes what a deal is worth, from what is said about its value and from its lines as they will stand. */
function completeValue(
  unit: Unit,
  next: Values,
  before: AnyRecord | undefined,
  { lines }: Parts,
): Promise<void> {
  // An undo brings back each of them as it was.
  if (unit.undoes !== undefined) return Promise.resolve();
  if (before && lines) {
    // What lines come to is the value, or can be made it.
    if (unit.policy.locked('deal').has('value'))
      throw new Problem(
        'not-allowed',
        'Your role does not let you change the value of deals, nor their lines.',
      );
    unit.label ||= `Changed the lines of “${String(before.name).slice(0, 80)}”`;
  }
  const isOther = next.currency !== undefined && before && next.currency !== before.currency;
  if (isOther && !lines && before.linesValue !== null)
    throw invalidInput([
      {
        field: 'currency',
        message: `Currency: the lines are in ${String(before.currency)}. Say what they cost in ${String(next.currency)} with it`,
      },
    ]);
  const change = changeIn(next, lines);
  if (Object.keys(change).length === 0) return Promise.resolve();
  const said = valueAfter(before && saidOf(before), change);
  if (typeof said === 'string') throw invalidInput([FAULTS[said]]);
  Object.assign(next, said);
  return Promise.resolve();
}

/** What the lines and the value of a deal have to do with each other. */
export const dealValueHooks: RecordHooks = { object: 'deal', order: 1, beforeWrite: completeValue };

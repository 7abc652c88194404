import { addDays, type Climb, type ClimbMark, type DealHistory } from '@zawn/core';
import { counted, date } from '../../platform/frame/format';
import { type Level } from './use-climb';

/** What is known of a deal's stays at a level: `Survey done: since 4 Nov 2026, 15 days; usually 14.` */
export function levelInWords(
  climb: Climb,
  levels: readonly Level[],
  at: number,
  enteredBy: (level: number) => string | undefined,
): string {
  const { stage, usualDays } = levels[at];
  const stays = climb.stays.filter(({ level }) => level === at);
  const usual = `usually ${counted(usualDays, 'day')}`;
  const name = stage.retired ? `${stage.name} (retired)` : stage.name;
  const last = stays.at(-1);
  if (!last) return `${name}: not been in it; ${usual}.`;
  const days = stays.reduce((sum, { from, until }) => sum + until - from, 0);
  const spent = stays.length > 1 ? `${counted(days, 'day')} in ${stays.length} stays` : counted(days, 'day');
  const since = `${last.isOver ? 'entered' : 'since'} ${date(addDays(climb.from, last.from))}`;
  const by = enteredBy(at);
  return `${name}: ${since}${by ? ` by ${by}` : ''}, ${spent}${last.isOver ? '' : ' so far'}; ${usual}.`;
}

/** What the way ahead and the quiet behind say about the deal as a whole. */
export function climbRemarks({ ahead, late, from, silence, today }: Climb): string[] {
  const arrives = ahead.at(-1)?.day;
  return [
    ...(arrives !== undefined && late > 0
      ? [
          `At the usual pace it takes until ${date(addDays(from, arrives))}, ${counted(late, 'day')} after the close date.`,
        ]
      : []),
    ...(silence && silence.until === today
      ? [`Nobody spoke with them for ${counted(silence.until - silence.from, 'day')}.`]
      : []),
  ];
}

/** A change on the way: `Close date put off from 3 Nov 2026 to 1 Dec 2026`. */
export function markInWords(mark: ClimbMark, money: (amount: number) => string): string {
  if (mark.kind === 'value') return `Value changed from ${money(mark.from)} to ${money(mark.to)}`;
  const how = mark.to > mark.from ? 'put off' : 'brought forward';
  return `Close date ${how} from ${date(mark.from)} to ${date(mark.to)}`;
}

/** Who entered a level last, by their id. */
export const enteredBy = ({ periods }: DealHistory, stage: number): number | null =>
  periods.findLast((period) => period.stage === stage)?.person ?? null;

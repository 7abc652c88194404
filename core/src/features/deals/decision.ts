import { dayIn, daysBetween, type Day } from '../../platform/time';

/** The role in a decision that no deal does well without. */
export const DECIDES = 'decides';

/** Somebody who has a part in a deal, as far as the gaps in it are judged by. */
export interface DecisionMember {
  name: string;
  role: string;
  /** When we last called, met or wrote to each other; null for never. */
  lastTouchAt: string | null;
}

export type DecisionGap =
  | { kind: 'nobody' }
  | { kind: 'neverSpokenTo'; name: string }
  | { kind: 'silent'; name: string; days: number };

/** Days after which it is worth saying that the one who decides was not spoken to. */
const SILENT_DAYS = 30;

/**
 * What is missing about who decides: nobody named, or of those who decide nobody spoken to for long. One of several
 * who was spoken to lately is enough.
 */
export function decisionGap(
  members: readonly DecisionMember[],
  { today, timeZone }: { today: Day; timeZone: string },
): DecisionGap | undefined {
  const deciding = members.filter(({ role }) => role === DECIDES);
  if (deciding.length === 0) return { kind: 'nobody' };
  const spoken = deciding.flatMap(({ name, lastTouchAt }) =>
    lastTouchAt === null ? [] : [{ name, days: daysBetween(dayIn(timeZone, lastTouchAt), today) }],
  );
  if (spoken.length === 0) return { kind: 'neverSpokenTo', name: deciding[0].name };
  const nearest = spoken.reduce((best, each) => (each.days < best.days ? each : best));
  return nearest.days > SILENT_DAYS ? { kind: 'silent', ...nearest } : undefined;
}

/** The same in a sentence, for the place where the deal is shown. */
export function decisionGapInWords(gap: DecisionGap): string {
  switch (gap.kind) {
    case 'nobody':
      return 'Nobody who decides is named.';
    case 'neverSpokenTo':
      return `${gap.name}, who decides, was never spoken to.`;
    case 'silent':
      return `${gap.name}, who decides, was last spoken to ${gap.days} days ago.`;
  }
}

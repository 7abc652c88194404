import { addDays, isWorkingDay } from '@zawn/core';
import { useSession } from '../../platform/sessions/session';

const NEXT = 'Next working day';

/** Tomorrow, or the next day one works. */
export function useFirstWhen(): string {
  const { today, calendar } = useSession();
  return isWorkingDay(calendar, addDays(today, 1)) ? 'Tomorrow' : NEXT;
}

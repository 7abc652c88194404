import { type PersonAccess, type RecordOf } from '@zawn/core';
import { nearDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

/** How somebody gets in, in words. */
export function WayIn({ person, access }: { person: RecordOf<'person'>; access: PersonAccess | undefined }) {
  const { today, dayOf } = useSession();
  if (!person.active) return <span className="second">left</span>;
  if (!access) return null;
  const { linkUntil, hasPassword, hasSecondStep, lastSignInAt } = access;
  if (!hasPassword)
    return linkUntil === null ? (
      <span className="late">no way in yet</span>
    ) : dayOf(linkUntil) < today ? (
      <span className="late">invitation expired {nearDate(dayOf(linkUntil), today)}</span>
    ) : (
      <span>invited until {nearDate(dayOf(linkUntil), today)}</span>
    );
  return (
    <span>
      {lastSignInAt ? `last signed in ${nearDate(dayOf(lastSignInAt), today)}` : 'not signed in yet'}
      {hasSecondStep && <span className="second">, with a second step</span>}
    </span>
  );
}

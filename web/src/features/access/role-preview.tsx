import { actType, fieldOf, objectType, operationLabels, type RolePreview } from '@zawn/core';
import { number } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

/** Who gains and loses what by a change of a role, in counts: what is counted once, then whom it concerns. */
export function PreviewList({ preview }: { preview: RolePreview }) {
  const { person, catalogue } = useSession();
  const nameOf = (id: number) => person(id)?.name ?? 'Somebody';
  const groups = new Map<string, { who: number; gains: boolean; text?: string }[]>();
  const add = (title: string, who: number, gains: boolean, text?: string) =>
    groups.set(title, [...(groups.get(title) ?? []), { who, gains, text }]);
  for (const { object, operation, before, after, person: who } of preview.changes)
    add(
      `${operationLabels[operation]} ${objectType(object).plural.toLowerCase()}`,
      who,
      after > before,
      `${number(before)} → ${number(after)}`,
    );
  for (const { act, operation, gains, person: who } of preview.acts) {
    const { label } = actType(act);
    add(operation ? `${label}: ${operationLabels[operation].toLowerCase()}` : label, who, gains);
  }
  for (const { object, field, gains, person: who } of preview.fields)
    add(
      `See ${(fieldOf(catalogue, object, field)?.label ?? field).toLowerCase()} of ${objectType(object).plural.toLowerCase()}`,
      who,
      gains,
    );
  if (groups.size === 0)
    return (
      <p className="second">
        {preview.people.length === 0
          ? 'Nobody has this role, so nobody gains or loses anything.'
          : 'Nobody gains or loses anything that is there today.'}
      </p>
    );
  return (
    <dl className="role-preview">
      {[...groups].map(([title, lines]) => (
        <div key={title}>
          <dt>{title}</dt>
          <dd>
            {lines.map(({ who, gains, text }) => (
              <span key={who} className={gains ? 'gains' : 'loses'}>
                {nameOf(who)} <b>{text ?? (gains ? 'may now' : 'no longer')}</b>
              </span>
            ))}
          </dd>
        </div>
      ))}
    </dl>
  );
}

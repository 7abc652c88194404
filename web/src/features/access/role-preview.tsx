import {
  actType,
  fieldOf,
  objectType,
  operationLabels,
  type ReachChange,
  type RolePreview,
} from '@zawn/core';
import { number } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

const MOST = 60;

/** Who gains and loses what by a change of a role, in counts. */
export function PreviewList({ preview }: { preview: RolePreview }) {
  const { person, catalogue } = useSession();
  const nameOf = (id: number) => person(id)?.name ?? 'Somebody';
  const inWords = ({ object, operation, before, after }: ReachChange) => {
    const { plural } = objectType(object);
    return `${operationLabels[operation].toLowerCase()} ${number(after)} ${plural.toLowerCase()}, ${number(before)} until now`;
  };
  const lines = [
    ...preview.changes.map((change) => ({
      key: `${change.person} ${change.object} ${change.operation}`,
      who: change.person,
      gains: change.after > change.before,
      text: inWords(change),
    })),
    ...preview.acts.map(({ person: who, act, gains }) => ({
      key: `${who} ${act}`,
      who,
      gains,
      text: `${gains ? 'may' : 'may no longer'} ${actType(act).label.toLowerCase()}`,
    })),
    ...preview.fields.map(({ person: who, object, field, gains }) => ({
      key: `${who} ${object} ${field}`,
      who,
      gains,
      text: `${gains ? 'sees' : 'no longer sees'} ${(fieldOf(catalogue, object, field)?.label ?? field).toLowerCase()} of ${objectType(object).plural.toLowerCase()}`,
    })),
  ];
  if (lines.length === 0)
    return (
      <p className="second">
        {preview.people.length === 0
          ? 'Nobody has this role, so nobody gains or loses anything.'
          : 'Nobody gains or loses anything that is there today.'}
      </p>
    );
  return (
    <ul className="role-preview">
      {lines.slice(0, MOST).map(({ key, who, gains, text }) => (
        <li key={key}>
          <b>{nameOf(who)}</b> <span className={gains ? 'gains' : 'loses'}>{gains ? 'gains' : 'loses'}</span>{' '}
          {text}
        </li>
      ))}
      {lines.length > MOST && <li className="second">and {number(lines.length - MOST)} more</li>}
    </ul>
  );
}

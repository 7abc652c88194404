import { objectType, type AnyRecord, type NoticeKind, type ObjectKey } from '@zawn/core';

/** Something to be told about one record. */
export interface Pending {
  person: number;
  kind: NoticeKind;
  object: ObjectKey;
  record: AnyRecord;
}

/** What goes to one person, ready to be kept. */
export interface Telling {
  person: number;
  kind: NoticeKind;
  text: string;
  path: string;
}

/** Of one kind more than these at once are told as one. */
const MOST_EACH = 3;

const nameOf = ({ object, record }: Pending) => String(record[objectType(object).nameField]);

/** One record in words, with what is needed to call back at once. */
function textOf(pending: Pending, from: string): string {
  const { kind, object, record } = pending;
  const { label } = objectType(object);
  if (kind === 'handedOver') return `${from} handed you the ${label.toLowerCase()} ${nameOf(pending)}`;
  const details = [record.organisation, record.phone, record.email].filter(Boolean).join(' · ');
  return `New lead: ${nameOf(pending)}${details ? `, ${details}` : ''}`;
}

/**
 * What each person is told of all that one unit did: record by record while it is few, otherwise as one.
 * @param from who did it, by name.
 */
export function tellings(all: readonly Pending[], from: string): Telling[] {
  const groups = new Map<string, Pending[]>();
  for (const pending of all) {
    const name = `${pending.person} ${pending.kind} ${pending.object}`;
    const group = groups.get(name);
    if (group) group.push(pending);
    else groups.set(name, [pending]);
  }
  return [...groups.values()].flatMap((group): Telling[] => {
    const [{ person, kind, object }] = group;
    const { path, plural } = objectType(object);
    if (group.length <= MOST_EACH) {
      return group.map((pending) => ({
        person,
        kind,
        text: textOf(pending, from),
        path: `/${path}?open=${object}-${pending.record.id}`,
      }));
    }
    const count = `${group.length.toLocaleString('en-GB')} ${plural.toLowerCase()}`;
    const text = kind === 'handedOver' ? `${from} handed you ${count}` : `${count} are new and yours`;
    return [{ person, kind, text, path: `/${path}` }];
  });
}

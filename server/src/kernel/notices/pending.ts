import {
  howMany,
  isSubject,
  objectType,
  subjectKeys,
  type Alike,
  type AnyRecord,
  type NoticeKind,
  type ObjectKey,
} from '@zawn/core';

/** What follows from a write, rather than from the hour. */
export type WrittenKind = Exclude<NoticeKind, 'dueSoon' | 'snapshotFailed'>;

/** Something to be told about one record. */
export interface Pending {
  person: number;
  kind: WrittenKind;
  object: ObjectKey;
  record: AnyRecord;
  /** Of a new lead: whom it may be of those the person sees. */
  alike?: Alike;
  /** Of an email: what it is about. */
  subject?: string;
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

/** What a unit will tell people, when it comes to its end. */
export class PendingNotices {
  private readonly kept: Pending[] = [];
  private readonly counts = new Map<string, number>();

  get all(): readonly Pending[] {
    return this.kept;
  }

  get count(): number {
    return this.kept.length;
  }

  /** What is told as one anyway need not be remembered record by record. */
  add(pending: Pending): void {
    const group = groupOf(pending);
    const before = this.counts.get(group) ?? 0;
    this.counts.set(group, before + 1);
    this.kept.push(before > MOST_EACH ? { ...pending, record: UNTOLD } : pending);
  }

  /** Adds to what the owner of a new lead hears whom it may be. */
  addAlike(lead: number, alike: Alike): void {
    const pending = this.kept.find(({ object, record }) => object === 'lead' && record.id === lead);
    if (pending) pending.alike = alike;
  }

  /** Forgets all but the first so many, because what they told of was taken back. */
  takeBackTo(count: number): void {
    const first = this.kept.slice(0, count);
    this.kept.length = 0;
    this.counts.clear();
    for (const pending of first) this.add(pending);
  }
}

/** Stands for a record that is only counted. */
const UNTOLD = { id: 0 } as unknown as AnyRecord;

const groupOf = ({ person, kind, object }: Pending) => `${person} ${kind} ${object}`;

const nameOf = ({ object, record }: Pending) => String(record[objectType(object).nameField]);

/** Where set-up records are looked at, which have no sheet. */
const setupPages: Partial<Record<ObjectKey, string>> = {
  assignmentRule: '/setup/assignment',
  scoreRule: '/setup/scores',
};

const lowered = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** Where a record is looked at: on its own sheet, or on that of what it hangs on. */
function sheetOf({ object, record }: Pending): string {
  const on = isSubject(object) ? undefined : subjectKeys.find((key) => typeof record[key] === 'number');
  const [shown, id] = on ? [on, Number(record[on])] : [object, record.id];
  return `/${objectType(shown).path}?open=${shown}-${id}`;
}

/** One record in words, with what is needed to call back at once. */
function textOf(pending: Pending, from: string): string {
  const { kind, object, record, alike, subject } = pending;
  const { label } = objectType(object);
  if (kind === 'handedOver') return `${from} handed you the ${label.toLowerCase()} ${nameOf(pending)}`;
  if (kind === 'taskAssigned') return `${from} gave you something to do: ${nameOf(pending)}, due ${subject}`;
  if (kind === 'taskDone')
    return `${from} has done what you planned: ${nameOf(pending)}${subject ? `, ${subject}` : ''}`;
  if (kind === 'mentioned') return `${from} mentioned you on ${nameOf(pending)}: ${subject}`;
  if (kind === 'ruleAsleep')
    return `The ${label.toLowerCase()} ${nameOf(pending)} no longer works: it asks about ${subject}, which is gone`;
  if (kind === 'mailArrived') return `${nameOf(pending)} has written: ${subject}`;
  const details = [record.organisation, record.phone, record.email].filter(Boolean).join(' · ');
  const known = alike
    ? `. May be on file: ${objectType(alike.object).label.toLowerCase()} ${alike.name} (${lowered(alike.reason)})`
    : '';
  return `New lead: ${nameOf(pending)}${details ? `, ${details}` : ''}${known}`;
}

/**
 * What each person is told of all that one unit did: record by record while it is few, otherwise as one.
 * @param from who did it, by name.
 */
export function tellings(all: readonly Pending[], from: string): Telling[] {
  const groups = new Map<string, Pending[]>();
  for (const pending of all) {
    const name = groupOf(pending);
    const group = groups.get(name);
    if (group) group.push(pending);
    else groups.set(name, [pending]);
  }
  return [...groups.values()].flatMap((group): Telling[] => {
    const [{ person, kind, object }] = group;
    const { path } = objectType(object);
    if (group.length <= MOST_EACH) {
      return group.map((pending) => ({
        person,
        kind,
        text: textOf(pending, from),
        path: setupPages[object] ?? sheetOf(pending),
      }));
    }
    const count = howMany(object, group.length);
    const text = {
      handedOver: `${from} handed you ${count}`,
      taskAssigned: `${from} gave you ${count} to do`,
      taskDone: `${from} has done ${count} that you planned`,
      mentioned: `${from} mentioned you on ${count}`,
      mailArrived: `${count} have written`,
      ruleAsleep: `${count} count for nobody any more`,
      leadArrived: `${count} are new and yours`,
      importFinished: `${count} came in`,
    }[kind];
    return [{ person, kind, text, path: setupPages[object] ?? `/${path}` }];
  });
}

import { objectType, subjectKeys, type AnyRecord, type SubjectKey } from '@zawn/core';
import { type PhoneCallRow } from '../../platform/database/rows';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

const MINUTE = 60;

/** The activity of a call that came in and was not taken. */
const CALL_BACK = 'Call back';

const linkTo = (object: string | null, record: number | null): Values =>
  object === null ? {} : { [object]: record };

/** A call that came in and was not taken is one to be made today. */
export async function planCallBack(
  unit: Unit,
  { number, person, object, record }: Pick<PhoneCallRow, 'number' | 'person' | 'object' | 'record'>,
): Promise<AnyRecord> {
  const { today } = await unit.context();
  const values = { name: CALL_BACK, kind: 'call', direction: 'out', number, dueOn: today, owner: person };
  return unit.create('activity', { ...values, ...linkTo(object, record) }, 'hand');
}

/** A call that has ended, as the activity that was done: the planned one where it was one. */
export async function writeDownCall(
  unit: Unit,
  { number, person, direction, object, record, activity, startedAt }: PhoneCallRow,
  seconds: number,
  kept: { hash: string; size: number } | null,
): Promise<AnyRecord> {
  const { today } = await unit.context();
  const links = linkTo(object, record);
  const planned =
    activity === null ? undefined : await unit.find('activity', activity).catch(() => undefined);
  const call =
    planned && planned.doneAt === null
      ? planned
      : await unit.create('activity', {
          name: 'Call',
          kind: 'call',
          dueOn: today,
          owner: person,
          ...links,
        });
  const file =
    kept &&
    (await unit.create(
      'file',
      {
        name: `Call ${startedAt.slice(0, 16).replace('T', ' ').replace(':', '.')}.wav`,
        mediaType: 'audio/wav',
        use: 'recording',
        owner: person,
        ...kept,
        ...Object.fromEntries(subjectKeys.map((key) => [key, call[key] ?? null])),
      },
      'feature',
    ));
  return unit.change(
    'activity',
    call.id,
    {
      direction,
      number,
      minutes: Math.round((seconds / MINUTE) * 10) / 10,
      doneAt: unit.at,
      doneBy: person,
      recording: file?.id ?? null,
    },
    { setter: 'feature' },
  );
}

/** What a call is called where it was written down. */
export async function labelOfCall(unit: Unit, { object, record, number }: PhoneCallRow): Promise<string> {
  const found =
    object && record ? (await unit.visible(object as SubjectKey, [record])).get(record) : undefined;
  return `Call with ${found ? String(found[objectType(object as SubjectKey).nameField]) : number}`;
}

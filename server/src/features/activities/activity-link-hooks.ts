import { objectType, subjectKeys } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { partsOfActivity } from './together';

/** What it means that an activity is about a further record: it names one. */
export const activityLinkHooks: RecordHooks = {
  object: 'activityLink',
  beforeWrite(unit, next, before) {
    const named = subjectKeys.filter((key) => (key in next ? next[key] : before?.[key]) != null);
    if (unit.undoes === undefined && named.length !== 1) {
      const kinds = subjectKeys.map((key) => objectType(key).label.toLowerCase()).join(', ');
      throw invalidInput([{ field: named[1] ?? '', message: `Name one of: ${kinds}` }]);
    }
    return Promise.resolve();
  },
};

/** What is derived of the further records of an activity follows from it as well. */
export async function affectLinked(unit: Unit, activity: number): Promise<void> {
  for (const link of await partsOfActivity(unit, 'activityLink', activity))
    unit.affected.noteLinked('activityLink', link);
}

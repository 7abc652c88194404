import { IsNull } from 'typeorm';
import { rhythmFault, type AnyRecord, type ObjectKey, type Rhythm } from '@zawn/core';
import { checkReport } from '@zawn/core/validation';
import { invalidInput } from '../../platform/http/problem';
import { checkedJson } from '../../kernel/records/checked-json';
import { type RecordHooks, type Values } from '../../kernel/records/record-hooks';
import { refuseCircle } from '../../kernel/records/refuse-circle';
import { type Unit } from '../../kernel/records/unit';
import { completeSharing, completeTeams } from '../../kernel/views/view-hooks';

/** What lies in folders. */
const inside = ['snapshot', 'snapshotPlan'] as const satisfies readonly ObjectKey[];
const SHARING = ['sharing', 'team', 'teams'] as const;

/** What lies in a folder is seen by whoever sees the folder. */
async function shareAsFolder(unit: Unit, next: Values, before: AnyRecord | undefined): Promise<void> {
  if (!before) next.owner = unit.actor.personId;
  if (next.folder === undefined || next.folder === null || next.folder === before?.folder) return;
  Object.assign(next, await sharedAsFolder(unit, Number(next.folder)));
}

/** Who sees what lies in a folder. */
export async function sharedAsFolder(unit: Unit, id: number): Promise<Values> {
  const folder = await unit.find('folder', id);
  return Object.fromEntries(SHARING.map((key) => [key, folder[key]]));
}

/** Records that lie in a folder, whoever sees them. */
async function heldBy(unit: Unit, object: ObjectKey, link: string, folder: number): Promise<AnyRecord[]> {
  const rows = await unit.manager.findBy<AnyRecord>(object, {
    [link]: folder,
    deletedAt: IsNull(),
  });
  return [
    ...(
      await unit.everyones(
        object,
        rows.map(({ id }) => id),
      )
    ).values(),
  ];
}

export const folderHooks: RecordHooks = {
  object: 'folder',

  async beforeWrite(unit, next, before) {
    completeSharing(unit, next, before);
    await completeTeams(unit, next, before);
    await refuseCircle(unit, 'folder', 'parent', next, before);
  },

  /** What lies in it is seen by the same people from now on. */
  async afterWrite(unit, after, before) {
    if (!before || SHARING.every((key) => JSON.stringify(after[key]) === JSON.stringify(before[key]))) return;
    const shared = Object.fromEntries(SHARING.map((key) => [key, after[key]]));
    for (const object of inside)
      for (const record of await heldBy(unit, object, 'folder', after.id))
        await unit.alter(object, record, shared);
  },

  async beforeRemove(unit, { id, name }) {
    const counts = await Promise.all([
      heldBy(unit, 'folder', 'parent', id),
      ...inside.map((object) => heldBy(unit, object, 'folder', id)),
    ]);
    const count = counts.flat().length;
    if (count > 0)
      throw invalidInput([
        {
          field: 'folder',
          message: `“${String(name)}” still holds ${count === 1 ? 'one thing' : `${count} things`}, some perhaps not shared with you. Move or delete what is in it first`,
        },
      ]);
  },
};

export const snapshotHooks: RecordHooks = {
  object: 'snapshot',

  async beforeWrite(unit, next, before) {
    if (!before && next.takenAt === undefined)
      throw invalidInput([{ field: 'design', message: 'A snapshot is taken of a report' }]);
    await shareAsFolder(unit, next, before);
  },
};

export const snapshotPlanHooks: RecordHooks = {
  object: 'snapshotPlan',

  async beforeWrite(unit, next, before) {
    await shareAsFolder(unit, next, before);
    const rhythm = { ...before, ...next } as unknown as Rhythm;
    const fault = rhythmFault(rhythm);
    if (fault) throw invalidInput([{ field: fault[0], message: fault[1] }]);
    if (next.design === undefined) return;
    const check = (raw: unknown) => checkReport(raw, unit.catalogue);
    next.design = checkedJson(next.design, 'design', 'The report', check).text;
  },
};

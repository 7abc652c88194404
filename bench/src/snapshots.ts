import { ask, type Actor, type FrozenRecordsAnswer, type ReportDesign, type Snapshot } from '@zawn/core';
import { type Door } from '@zawn/server/dist/kernel/records/door';
import { type Gate } from '@zawn/server/dist/kernel/questions/gate';
import { type Freezer } from '@zawn/server/dist/features/snapshots/freezer';
import { type SnapshotsController } from '@zawn/server/dist/features/snapshots/snapshots.controller';
import { time } from './measure';
import { type Timed } from './reports';

/** Records of the snapshot that is opened. */
const RECORDS = 5000;

/** The first open deals, by owner. */
async function reportOf(gate: Gate, actor: Actor): Promise<ReportDesign> {
  const question = { ...ask('deal'), sort: [{ field: 'id' as const }] };
  const { rows } = await gate.records(actor, question, { offset: RECORDS, limit: 1 });
  const where = { field: 'id', is: 'below' as const, value: rows[0]?.id ?? Number.MAX_SAFE_INTEGER };
  return {
    version: 1,
    question: { ...ask('deal', where), groups: [{ field: 'owner' }, { field: 'outcome' }] },
    figures: [
      { key: 'deals', measure: { as: 'count' } },
      { key: 'value', measure: { as: 'sum', of: 'value' } },
      { key: 'median', measure: { as: 'median', of: 'value' } },
    ],
    draw: 'bars',
  };
}

interface Services {
  gate: Gate;
  door: Door;
  freezer: Freezer;
  snapshots: SnapshotsController;
}

/** A snapshot of 5,000 records taken, opened by who took it and by another reader, and the records behind all of it. */
export async function snapshots(
  { gate, door, freezer, snapshots: routes }: Services,
  taker: Actor,
  reader: Actor,
): Promise<{ freeze: Timed; opened: Timed[] }> {
  const design = await reportOf(gate, taker);
  const writing = { actor: taker, through: 'hand' as const };
  const { value: folder } = await door.write(writing, (unit) =>
    unit.create('folder', { name: 'Measured', sharing: 'everyone' }),
  );
  const freeze = async () => {
    const taken = await freezer.take(taker, design);
    const values = { name: 'Measured', folder: folder.id, seenBy: 'each' as const };
    return (await door.write(writing, (unit) => freezer.keep(unit, taken, values))).value;
  };
  const snapshot: Snapshot = await freeze();
  const all = (actor: Actor) => routes.records(actor, snapshot.id, { place: { keys: [] } });
  const { total }: FrozenRecordsAnswer = await all(taker);
  if (total < RECORDS * 0.9) throw new Error(`The snapshot holds ${total} records`);
  const timed = async (what: string, work: () => Promise<unknown>, rounds: number): Promise<Timed> => ({
    what,
    zawn: await time(work, rounds),
    byHand: undefined,
  });
  return {
    freeze: await timed('A report of 5,000 records frozen', freeze, 5),
    opened: [
      await timed('Its snapshot opened', () => routes.frozen(taker, snapshot.id), 30),
      await timed(
        'The same by another reader, for the records they see',
        () => routes.frozen(reader, snapshot.id),
        20,
      ),
      await timed('The records behind all of it', () => all(taker), 20),
    ],
  };
}

import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, optional, text, texts, yesNo } from './columns';

/** Who sees something, and whose it is. */
const shared = [text('sharing'), ...links('team'), ...texts('teams'), integer('owner')];

const TABLES = [
  { name: 'folder', columns: [text('name'), ...links('parent'), ...shared] },
  {
    name: 'snapshot',
    columns: [
      text('name'),
      integer('folder'),
      ...texts('about'),
      text('object'),
      text('seenBy'),
      text('takenAt'),
      ...texts('dueAt'),
      ...links('records', 'plan'),
      ...shared,
    ],
  },
  {
    name: 'snapshotPlan',
    columns: [
      text('name'),
      integer('folder'),
      text('design'),
      ...texts('about'),
      text('seenBy'),
      text('every'),
      ...texts('weekday'),
      ...links('day'),
      ...texts('working'),
      text('at'),
      ...texts('offDay'),
      optional(yesNo('paused')),
      ...texts('nextAt', 'trouble'),
      ...shared,
    ],
  },
  {
    name: 'pack',
    columns: [text('name'), ...texts('meetsOn'), text('design'), ...links('previous'), ...shared],
  },
];

/** What was frozen never changes; it goes with the snapshot that it belongs to. */
const TRIGGERS = {
  frozenNeverChanges: `BEFORE UPDATE ON "frozen" BEGIN SELECT RAISE(ABORT, 'A snapshot never changes'); END`,
  frozenMomentNeverChanges: `BEFORE UPDATE OF "takenAt", "object", "seenBy", "records" ON "snapshot"
    WHEN "old"."takenAt" <> "new"."takenAt" OR "old"."object" <> "new"."object" OR "old"."seenBy" <> "new"."seenBy"
      OR "old"."records" <> "new"."records"
    BEGIN SELECT RAISE(ABORT, 'A snapshot never changes'); END`,
  frozenGoes: `AFTER DELETE ON "snapshot" BEGIN DELETE FROM "frozen" WHERE "snapshot" = "old"."id"; END`,
};

/** Snapshots of reports in folders, taken by hand and on schedules, and packs for meetings. */
export class Snapshots1769299200000 implements MigrationInterface {
  name = 'Snapshots1769299200000';

  async up(runner: QueryRunner): Promise<void> {
    for (const { name, columns } of TABLES)
      await runner.createTable(new Table({ name, columns: [...head, ...columns] }));
    await runner.createTable(
      new Table({
        name: 'frozen',
        columns: [
          { ...integer('snapshot'), isPrimary: true },
          { ...text('holds'), isPrimary: true },
          { ...integer('place'), isPrimary: true },
          text('data'),
        ],
      }),
    );
    for (const [name, does] of Object.entries(TRIGGERS))
      await runner.query(`CREATE TRIGGER "${name}" ${does}`);
    await runner.query('ALTER TABLE "activity" ADD COLUMN "pack" integer');
    await runner.query('CREATE INDEX "activity_pack" ON "activity" ("pack") WHERE "pack" IS NOT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "activity_pack"');
    await runner.query('ALTER TABLE "activity" DROP COLUMN "pack"');
    for (const name of Object.keys(TRIGGERS)) await runner.query(`DROP TRIGGER "${name}"`);
    await runner.dropTable('frozen');
    for (const { name } of [...TABLES].reverse()) await runner.dropTable(name);
  }
}

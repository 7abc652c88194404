import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, optional, text, texts, yesNo } from './columns';

const columns = {
  lead: [
    ...texts(
      ...['budget', 'authority', 'need', 'timing'].flatMap((question) => [
        `${question}Met`,
        `${question}Note`,
      ]),
    ),
    ...links('questionsMet', 'score'),
    ...texts('firstTouchAt'),
    ...links('hoursToTouch'),
    ...texts('disqualifyReason', 'disqualifyComment', 'lookAgainOn'),
  ],
  contact: [...texts('lastTouchAt', 'touchDueOn', 'touchSinceOn'), optional(yesNo('touchStopped'))],
  account: texts('lastTouchAt'),
};

const indexes: [table: string, columns: string[]][] = [['contact', ['owner', 'touchDueOn']]];

/** What is found out about leads, and when people were last in touch. */
export class QualificationAndTouch1765411200000 implements MigrationInterface {
  name = 'Knowing1765411200000';

  async up(runner: QueryRunner): Promise<void> {
    // Not by the runner, which would make the tables anew and lose the indexes it does not know of.
    for (const [table, added] of Object.entries(columns))
      for (const { name, type } of added)
        await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${name}" ${type}`);
    for (const [table, columnNames] of indexes)
      await runner.createIndex(
        table,
        new TableIndex({ name: ['by', table, ...columnNames].join('_'), columnNames }),
      );
    await runner.createTable(
      new Table({
        name: 'scoreRule',
        columns: [...head, text('name'), text('condition'), integer('points'), yesNo('active')],
      }),
    );
    // What was derived of everything there is, and on which day that was.
    await runner.createTable(
      new Table({ name: 'night', columns: [{ ...text('name'), isPrimary: true }, text('day')] }),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('night');
    await runner.dropTable('scoreRule');
    for (const [table, columnNames] of indexes)
      await runner.dropIndex(table, ['by', table, ...columnNames].join('_'));
    for (const [table, added] of Object.entries(columns))
      for (const { name } of added) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${name}"`);
  }
}

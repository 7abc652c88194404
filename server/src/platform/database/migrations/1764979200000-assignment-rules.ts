import { Table, TableColumn, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, optional, text, texts, yesNo } from './columns';

/** Who gets new leads: the rules, whose turn it is, and the default owner. */
export class AssignmentRules1764979200000 implements MigrationInterface {
  name = 'Assigning1764979200000';

  async up(runner: QueryRunner): Promise<void> {
    const columns = [
      ...head,
      text('name'),
      ...texts('condition'),
      text('to'),
      ...links('person'),
      ...texts('people'),
      integer('position'),
      yesNo('active'),
    ];
    await runner.createTable(new Table({ name: 'assignmentRule', columns }));
    const turn = [
      { ...integer('rule'), isPrimary: true },
      { ...integer('person'), isPrimary: true },
      integer('count'),
      optional(text('last')),
    ];
    await runner.createTable(new Table({ name: 'turn', columns: turn }));
    await runner.addColumn('organisation', new TableColumn(optional(integer('defaultOwner'))));
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropColumn('organisation', 'defaultOwner');
    await runner.dropTable('turn');
    await runner.dropTable('assignmentRule');
  }
}

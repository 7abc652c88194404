import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { id, integer, optional, text } from './columns';

/** Personal tokens by which programs use the API. */
export class Tokens1765065600000 implements MigrationInterface {
  name = 'Tokens1765065600000';

  async up(runner: QueryRunner): Promise<void> {
    const columns = [
      id,
      integer('person'),
      text('name'),
      text('hash'),
      text('ending'),
      text('scope'),
      text('createdAt'),
      optional(text('lastUsedAt')),
      optional(text('revokedAt')),
    ];
    await runner.createTable(new Table({ name: 'apiToken', columns }));
    const index = { name: 'by_apiToken_hash', columnNames: ['hash'], isUnique: true };
    await runner.createIndex('apiToken', new TableIndex(index));
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('apiToken');
  }
}

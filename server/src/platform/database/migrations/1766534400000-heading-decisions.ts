import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { integer, optional, text } from './columns';

const key = ['person', 'target', 'shape', 'heading'];

/**
 * What columns were pointed at is kept for who decided it, and for files of the same headings alone. What was kept
 * before told nothing of either, so it goes.
 */
export class HeadingDecisions1766534400000 implements MigrationInterface {
  name = 'HeadingDecisions1766534400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.dropTable('heading');
    const columns = [integer('person'), text('target'), text('shape'), text('heading')].map((column) => ({
      ...column,
      isPrimary: key.includes(column.name),
    }));
    await runner.createTable(
      new Table({ name: 'heading', columns: [...columns, optional(text('path')), text('decidedAt')] }),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('heading');
    const columns = ['target', 'heading'].map((name) => ({ ...text(name), isPrimary: true }));
    await runner.createTable(new Table({ name: 'heading', columns: [...columns, optional(text('path'))] }));
  }
}

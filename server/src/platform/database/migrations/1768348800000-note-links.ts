import { TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';

const LINKS = ['lead', 'contact', 'account', 'deal'];

/**
 * Notes are looked for by what they are about through indexes of those notes alone that are about one: counted among
 * the others, a link that few notes have looks to the engine as if each of its values stood for all of them.
 */
export class NoteLinks1768348800000 implements MigrationInterface {
  name = 'NoteLinks1768348800000';

  up(runner: QueryRunner): Promise<void> {
    return remake(runner, (link) => ({ where: `"${link}" IS NOT NULL` }));
  }

  down(runner: QueryRunner): Promise<void> {
    return remake(runner, () => ({}));
  }
}

async function remake(runner: QueryRunner, more: (link: string) => { where?: string }): Promise<void> {
  for (const link of LINKS) {
    const name = `by_note_${link}`;
    await runner.query(`DROP INDEX "${name}"`);
    await runner.createIndex('note', new TableIndex({ name, columnNames: [link], ...more(link) }));
  }
}

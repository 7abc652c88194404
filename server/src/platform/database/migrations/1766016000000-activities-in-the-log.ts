import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** The change log as it is asked about: each line with the record it is of as a link. */
const logged = (objects: readonly string[]) => `CREATE VIEW "loggedChange" AS SELECT
  "id", 1 AS "version", "at" AS "createdAt", "person" AS "createdBy", "at" AS "updatedAt", NULL AS "deletedAt",
  "at", "person", "object", "record", "kind", "field", "old", "new", "through", "unit",
  ${objects.map((object) => `CASE WHEN "object" = '${object}' THEN "record" END AS "${object}"`).join(', ')}
  FROM "change"`;

const SUBJECTS = ['lead', 'contact', 'account', 'deal'];

/** Changes of activities are asked about like those of the records they hang on. */
export class ActivitiesInTheLog1766016000000 implements MigrationInterface {
  name = 'LoggingWork1766016000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "loggedChange"');
    await runner.query(logged([...SUBJECTS, 'activity']));
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "loggedChange"');
    await runner.query(logged(SUBJECTS));
  }
}

import { type MigrationInterface, type QueryRunner } from 'typeorm';

const SUBJECTS = ['lead', 'contact', 'account', 'deal', 'activity'];
const PEOPLE = ['owner', 'heardBy', 'doneBy'];
/** Fields whose numbers are ids, and neither more nor less than others. */
const LINKS = [
  ...PEOPLE,
  ...[
    'territory',
    'contact',
    'account',
    'deal',
    'parent',
    'pipeline',
    'stage',
    'renewalOf',
    'lead',
    'recording',
  ],
];

const quoted = (texts: readonly string[]) => texts.map((text) => `'${text}'`).join(', ');
const holds = (side: string, pattern: string) => `"${side}" LIKE '${pattern}'`;
const bothLike = (pattern: string) => `${holds('old', pattern)} AND ${holds('new', pattern)}`;
// Values are kept as JSON: a day in quotes, a number without.
const areDays = bothLike('"____-__-__"');
const areTimes = bothLike('"____-__-__T%"');
const areNumbers = `json_type("old") IN ('integer', 'real') AND json_type("new") IN ('integer', 'real') AND "field" NOT IN (${quoted(LINKS)})`;
const number = (side: string) => `CAST("${side}" AS NUMERIC)`;
const day = (side: string) => `julianday(json_extract("${side}", '$'))`;

const WENT = `CASE
  WHEN "kind" <> 'changed' THEN NULL
  WHEN "old" = 'null' THEN 'begun'
  WHEN "new" = 'null' THEN 'emptied'
  WHEN (${areDays}) OR (${areTimes}) THEN CASE WHEN "new" > "old" THEN 'later' ELSE 'earlier' END
  WHEN ${areNumbers} THEN CASE WHEN ${number('new')} > ${number('old')} THEN 'more' ELSE 'less' END
  ELSE 'other' END`;
const DAYS = `CASE WHEN "kind" = 'changed' AND ${areDays} THEN CAST(${day('new')} - ${day('old')} AS INTEGER) END`;
const linked = (fields: readonly string[], side: string) =>
  `CASE WHEN "kind" = 'changed' AND "field" IN (${quoted(fields)}) THEN json_extract("${side}", '$') END`;

const currencyOf = (object: string) =>
  `WHEN '${object}' THEN (SELECT "currency" FROM "${object}" WHERE "${object}"."id" = "record")`;
const CURRENCY = `CASE "object" ${['deal', 'lead'].map(currencyOf).join(' ')} END`;

const logged = (more: readonly string[]) => `CREATE VIEW "loggedChange" AS SELECT
  "id", 1 AS "version", "at" AS "createdAt", "person" AS "createdBy", "at" AS "updatedAt", NULL AS "deletedAt",
  "at", "person", "object", "record", "kind", "field", "old", "new", "through", "unit",
  ${[...SUBJECTS.map((object) => `CASE WHEN "object" = '${object}' THEN "record" END AS "${object}"`), ...more].join(', ')}
  FROM "change"`;

/** The change log says how values changed, and names the people and stages that were exchanged. */
export class HowItChanged1768953600000 implements MigrationInterface {
  name = 'HowItChanged1768953600000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "loggedChange"');
    await runner.query(
      logged([
        `${WENT} AS "went"`,
        `${DAYS} AS "days"`,
        `${linked(PEOPLE, 'old')} AS "personBefore"`,
        `${linked(PEOPLE, 'new')} AS "personAfter"`,
        `${linked(['stage'], 'old')} AS "stageBefore"`,
        `${linked(['stage'], 'new')} AS "stageAfter"`,
        `${CURRENCY} AS "currency"`,
      ]),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "loggedChange"');
    await runner.query(logged([]));
  }
}

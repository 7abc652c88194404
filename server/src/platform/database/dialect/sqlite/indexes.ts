function caselessIndex([table, column]: readonly [string, string]): string {
  return `CREATE INDEX IF NOT EXISTS by_${table}_${column}_caseless ON "${table}" ("${column}" COLLATE NOCASE)`;
}

const indexesOn = (columns: readonly [table: string, column: string][]) => ({
  create: columns.map(caselessIndex),
  drop: columns.map(([table, column]) => `DROP INDEX by_${table}_${column}_caseless`),
});

/** Names are looked up and put in order without regard to case. */
export const nameIndexes = indexesOn([
  ['lead', 'name'],
  ['lead', 'organisation'],
  ['contact', 'name'],
  ['account', 'name'],
  ['deal', 'name'],
]);

/** The indexes by which rows of a file find the records they mean, names apart. */
export const matchingIndexes = indexesOn([
  ['lead', 'email'],
  ['lead', 'externalId'],
  ['contact', 'email'],
  ['contact', 'externalId'],
  ['account', 'domain'],
  ['account', 'externalId'],
  ['deal', 'externalId'],
  ['activity', 'name'],
  ['activity', 'externalId'],
]);

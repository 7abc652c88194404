import { type ObjectKey } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { q } from './quoted';

/** Where in the log it stands what was done to a record since a moment, the first thing first. */
const since = (log: string, object: ObjectKey, alias: string, moment: string) =>
  `"l"."object" = '${object}' AND "l"."record" = ${q(alias, 'id')} AND "l"."at" > ${moment} AND ${log} ORDER BY "l"."at", "l"."id" LIMIT 1`;

/** Whether anything was done to a record since a moment; what was not touched is as it was. */
const isChanged = (alias: string, moment: string) => `${q(alias, 'updatedAt')} > ${moment}`;

/**
 * A value as it was at a moment: what the first change of it since took away, or what it is where there was none.
 * @param present the expression of what it is.
 * @param moment the placeholder of an instant.
 */
export function valueThen(
  object: ObjectKey,
  field: string,
  alias: string,
  present: string,
  moment: string,
): string {
  const changed = since(`"l"."kind" = 'changed' AND "l"."field" = '${field}'`, object, alias, moment);
  const before = `(SELECT "l"."old" FROM "change" "l" ${dialect.byIndex('by_change_past')} WHERE ${changed})`;
  // A value that was empty is written in the log, so that it is told from one that did not change.
  const then = dialect.jsonWhole(`COALESCE(${before}, ${dialect.asJson(present)})`);
  return `CASE WHEN ${isChanged(alias, moment)} THEN ${then} ELSE ${present} END`;
}

/** Whether a record was there at a moment, and not in the bin. */
export function wasThere(object: ObjectKey, alias: string, moment: string): string {
  const moved = since(`"l"."kind" IN ('removed', 'restored')`, object, alias, moment);
  const next = `(SELECT "l"."kind" FROM "change" "l" ${dialect.byIndex('by_change_bin')} WHERE ${moved})`;
  const isKept = `${q(alias, 'deletedAt')} IS NULL`;
  const then = `CASE ${next} WHEN 'removed' THEN 1 WHEN 'restored' THEN 0 ELSE ${isKept} END`;
  return `${q(alias, 'createdAt')} <= ${moment} AND CASE WHEN ${isChanged(alias, moment)} THEN ${then} ELSE ${isKept} END`;
}

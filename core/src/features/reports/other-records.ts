import { type Field, type FieldValue } from '../../kernel/catalogue';
import { isDated } from '../../kernel/questions';
import { type OtherRecords, type ReportDesign } from './report';
import { ANY_GROUP } from './report-question';

/** Whether the values of a field of other records are told together with those of a field of the report's own. */
export function standsFor(other: Field, own: Field): boolean {
  if (isDated(own.type)) return isDated(other.type);
  return other.type === own.type && other.to === own.to;
}

/**
 * The keys by which other records are told in a place of a report: without those of groups that they are not told apart by.
 * @returns undefined where nothing is told of them there.
 */
export function besideKeys(
  { question: { groups = [] }, split: splitBy }: ReportDesign,
  { match, isUntold }: OtherRecords,
  keys: readonly FieldValue[],
  split: FieldValue | undefined,
): { keys: FieldValue[]; split: FieldValue | undefined } | undefined {
  const fields = keys.map((_, index) => match[groups[index]?.field ?? groups[0]?.field ?? '']);
  const splitField = splitBy && match[splitBy.field];
  if (isUntold || fields.includes(undefined as never) || (split !== undefined && !splitField))
    return undefined;
  return {
    keys: keys.filter((_, index) => fields[index] !== ANY_GROUP),
    split: splitField === ANY_GROUP ? undefined : split,
  };
}

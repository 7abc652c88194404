import { addMonths, type Day } from '../../platform/time';
import {
  fieldOf,
  offered,
  type AnyRecord,
  type Catalogue,
  type Field,
  type FieldValue,
} from '../../kernel/catalogue';

/** Where deals won in a pipeline are renewed, and when. */
export interface RenewalTerms {
  /** The pipeline they are renewed in. */
  renewsIn: number | null;
  /** Months after the day they were won. */
  renewsAfter: number | null;
}

/**
 * The day on which a won deal is to be renewed: so many months after it was won.
 * @returns undefined where it was not won, or its pipeline names no renewal.
 */
export function renewalDue(deal: AnyRecord, terms: RenewalTerms | undefined): Day | undefined {
  if (deal.outcome !== 'won' || !terms?.renewsIn || !terms.renewsAfter) return undefined;
  return addMonths(String(deal.closedOn), terms.renewsAfter);
}

const BEGINS = /^renewal( \d+)?: /i;

/** The name of a deal's renewal: `Renewal: Tide gauges`, and `Renewal 2: Tide gauges` when that is renewed in turn. */
export function renewalName(name: string): string {
  const [begins, count] = BEGINS.exec(name) ?? [];
  if (begins === undefined) return `Renewal: ${name}`.slice(0, 200);
  return `Renewal ${Number(count ?? 1) + 1}: ${name.slice(begins.length)}`.slice(0, 200);
}

/** What a renewal takes over from the deal that it renews. */
const carried = [
  'account',
  'contact',
  'owner',
  'currency',
  'value',
  'source',
  'competitors',
  'tags',
] as const;

/** A value without the choices that are not offered any more: nothing new begins with those. */
function stillOffered(field: Field | undefined, value: FieldValue): FieldValue {
  if (field?.choices === undefined || value === null) return value;
  const keys = new Set(offered(field.choices).map(({ key }) => key));
  if (!Array.isArray(value)) return keys.has(String(value)) ? value : null;
  const kept = value.filter((key) => keys.has(String(key)));
  return kept.length > 0 ? kept : null;
}

interface Renewal {
  /** As `renewalDue` says; where that has passed already, it is expected today. */
  due: Day;
  today: Day;
  pipeline: number;
  /** The first of the pipeline it is renewed in. */
  stage: number;
}

/** What the renewal of a won deal begins with; its lines and contacts come beside it. */
export function renewalValues(
  catalogue: Catalogue,
  deal: AnyRecord,
  { due, today, pipeline, stage }: Renewal,
): Record<string, FieldValue> {
  return {
    ...Object.fromEntries(
      carried.map((key) => [key, stillOffered(fieldOf(catalogue, 'deal', key), deal[key] ?? null)]),
    ),
    name: renewalName(String(deal.name)),
    pipeline,
    stage,
    closeOn: due < today ? today : due,
    renewalOf: deal.id,
  };
}

import { fieldsOf, type Catalogue, type Field, type FieldValue, type RecordOf } from '../../kernel/catalogue';
import { workDomain } from '../matching';
import { addDays, type Day } from '../../platform/time';

/** What a lead can become. */
export const conversionParts = ['contact', 'account', 'deal'] as const;
export type ConversionKey = (typeof conversionParts)[number];

/** Into which field of each part a field of the lead is carried over; null for none. */
export type CarryOver = Readonly<Record<ConversionKey, string | null>>;

/** What the organisation says about one of the lead's fields, in place of what holds without it. */
export type OwnCarryOver = CarryOver & { readonly field: string };

type Part = Record<string, FieldValue>;

/** What a converted lead would come to, part by part. */
export interface ConversionProposal {
  contact: Part;
  /** null when the lead names no organisation: a private person needs no account. */
  account: Part | null;
  deal: Part & { name: string; value: number; currency: string; closeOn: Day };
}

type Lead = RecordOf<'lead'>;

/** Where the time frame is one of the organisation's own. */
const USUAL_DAYS = 90;
/** Days until a deal may be expected to close, from the lead's time frame. */
const daysUntilClose: Readonly<Record<string, number>> = {
  month: 30,
  quarter: 90,
  year: 240,
  later: 365,
};

/** What carries over by its meaning rather than by its key, and what of the person is not the organisation's. */
const byMeaning: Readonly<Record<string, Partial<CarryOver>>> = {
  name: { account: null, deal: null },
  organisation: { account: 'name' },
  web: { account: 'domain' },
  email: { account: null },
  phone: { account: null },
  description: { account: null },
  budget: { deal: 'value' },
  externalId: { contact: null, account: null, deal: null },
};

const isFilledByHand = ({ set = 'edit' }: Field) => set === 'edit';

/** The fields of a lead that can be carried over. */
export function carriedFields(catalogue: Catalogue): readonly [string, Field][] {
  return fieldsOf(catalogue, 'lead').filter(
    ([key, field]) => isFilledByHand(field) && !field.notImported && key !== 'status',
  );
}

/** Whether what one field holds is a value of another as well. */
export function mayCarry(from: Field, to: Field): boolean {
  if (!isFilledByHand(to)) return false;
  if (from.type === 'text' && to.type === 'longText') return true;
  if (from.type !== to.type) return false;
  if (from.type === 'choice' || from.type === 'choices')
    return from.list !== undefined
      ? from.list === to.list
      : (from.choices ?? []).every(({ key }) => to.choices?.some((choice) => choice.key === key));
  return from.to === to.to;
}

/** Where a field goes without anybody having said so: to the field of the same key, as far as it holds the same. */
export function usualCarryOver(catalogue: Catalogue, key: string): CarryOver {
  const from = catalogueField(catalogue, 'lead', key);
  const target = (part: ConversionKey) => {
    const name = byMeaning[key]?.[part];
    if (name !== undefined) return name;
    const to = catalogueField(catalogue, part, key);
    return from && to && mayCarry(from, to) ? key : null;
  };
  return { contact: target('contact'), account: target('account'), deal: target('deal') };
}

const catalogueField = (catalogue: Catalogue, object: ConversionKey | 'lead', key: string) =>
  fieldsOf(catalogue, object).find(([name]) => name === key)?.[1];

/** Where each field of a lead goes, the organisation's own word before the usual. Fields that are gone are left out. */
export function carryOvers(catalogue: Catalogue, own: readonly OwnCarryOver[]): Map<string, CarryOver> {
  const said = new Map(own.map((each) => [each.field, each]));
  const settled = carriedFields(catalogue).map(([key, from]): [string, CarryOver] => {
    const wanted = said.get(key) ?? usualCarryOver(catalogue, key);
    const there = (part: ConversionKey) => {
      const name = wanted[part];
      const to = name === null ? undefined : catalogueField(catalogue, part, name);
      return to && mayCarry(from, to) ? name : null;
    };
    return [key, { contact: there('contact'), account: there('account'), deal: there('deal') }];
  });
  return new Map(settled);
}

/**
 * What a lead would become: its fields carried over, the deal's value from its budget, its close date from its time
 * frame counted from today.
 */
export function proposeConversion(
  lead: Lead,
  carried: ReadonlyMap<string, CarryOver>,
  today: Day,
  defaultCurrency: string,
): ConversionProposal {
  const parts: Record<ConversionKey, Part> = { contact: {}, account: {}, deal: {} };
  const values = lead as unknown as Record<string, FieldValue>;
  for (const [key, carryOver] of carried) {
    const value = values[key] ?? null;
    if (value === null) continue;
    for (const part of conversionParts) {
      const to = carryOver[part];
      if (to !== null) parts[part][to] = value;
    }
  }
  const { contact, account, deal } = parts;
  return {
    contact: { ...contact, relationship: 'prospect' },
    account: account.name
      ? { ...account, domain: account.domain ?? workDomain(lead.email) ?? null, relationship: 'prospect' }
      : null,
    deal: {
      ...deal,
      name: [lead.organisation ?? lead.name, lead.interest].filter(Boolean).join(': '),
      value: Number(deal.value ?? 0),
      currency: lead.currency ?? defaultCurrency,
      closeOn: addDays(today, daysUntilClose[lead.timeFrame ?? 'quarter'] ?? USUAL_DAYS),
    },
  };
}

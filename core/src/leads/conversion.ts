import { type RecordOf } from '../catalogue';
import { workDomain } from '../matching';
import { addDays, type Day } from '../time';

/** Where each part of a converted lead ends up: on a record that is there, or on a new one. */
export interface ConversionProposal {
  contact: Record<string, string | number | null>;
  /** null when the lead names no organisation: a private person needs no account. */
  account: Record<string, string | number | null> | null;
  deal: { name: string; value: number; currency: string; closeOn: Day; source: string | null };
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

/** What a lead would become: fields of the same key carry over, the deal's value from its budget, its close date from its time frame. */
export function proposeConversion(lead: Lead, today: Day, defaultCurrency: string): ConversionProposal {
  const { name, role, email, phone, city, country, owner } = lead;
  const account = lead.organisation && {
    name: lead.organisation,
    domain: lead.web ?? workDomain(email) ?? null,
    city,
    country,
    owner,
    relationship: 'prospect',
  };
  const currency = lead.currency ?? defaultCurrency;
  return {
    contact: { name, role, email, phone, city, country, owner, relationship: 'prospect' },
    account: account || null,
    deal: {
      name: [lead.organisation ?? name, lead.interest].filter(Boolean).join(': '),
      value: lead.budget ?? 0,
      currency,
      closeOn: addDays(today, daysUntilClose[lead.timeFrame ?? 'quarter'] ?? USUAL_DAYS),
      source: lead.source,
    },
  };
}

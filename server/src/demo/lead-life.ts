import { findings, reasonFor } from './scoring';
import { addDays, toMinor, type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { mailOf, type Company, type Rep } from './company';
import { workday } from './workday';
import { addContact, currencyIn, domainOf, openAccount, phoneIn, type Account, type Market } from './market';
import { type Random } from './random';
import { campaigns, interests, roles, teamOf } from './words';

export interface LeadLife {
  id: number;
  owner: Rep;
  createdOn: Day;
  /** The day it was converted or let go; null while it is open. */
  endedOn: Day | null;
  converted?: { account: Account; contact: number };
}

const sources = { fair: 18, referral: 16, website: 30, tender: 10, campaign: 12, coldCall: 9, partner: 5 };

/** Plays a lead through: converted, let go, or still open today. */
export function liveLead(
  book: Book,
  random: Random,
  market: Market,
  company: Company,
  createdOn: Day,
  today: Day,
  known: readonly Account[],
): LeadLife {
  const takesDays = Math.round(9 * random.spread(0.7));
  const endsOn = workday(addDays(createdOn, takesDays));
  // Nobody leaves a lead open for a whole season.
  const isOld = addDays(createdOn, 90) < today;
  const ended = endsOn < today && random.chance(isOld ? 0.99 : 0.55);
  const converts = ended && random.chance(0.46);
  if (converts) return convertedLead(book, random, market, company, createdOn, endsOn, today);

  const { organisation, city, country, domain, owner } = someone(random, market, company, known);
  const name = market.personName();
  const id = writeLead(book, random, owner, createdOn, {
    name,
    organisation,
    email: mailOf(name, domain),
    phone: random.chance(0.75) ? phoneIn(country, random) : null,
    web: domain,
    city,
    country,
    currency: currencyIn(country),
  });
  const moment = (day: Day) => ({ at: `${day}T13:${random.int(10, 59)}:00.000Z`, person: owner.id });
  if (ended) {
    const letGo = moment(endsOn);
    const why = { disqualifyReason: reasonFor(id), disqualifiedAt: letGo.at };
    book.change('lead', id, letGo, { status: 'disqualified', ...why });
    return { id, owner, createdOn, endedOn: endsOn };
  }
  const touchedOn = workday(addDays(createdOn, random.int(0, 5)));
  if (touchedOn < today && random.chance(owner.discipline)) {
    book.change('lead', id, moment(touchedOn), {
      status: random.weighted({ working: 6, waiting: 3, qualified: 2 }),
      ...findings(id),
    });
  }
  return { id, owner, createdOn, endedOn: null };
}

/** How people write the name of where they work, which is not always how it is on file. */
const respell = (name: string) =>
  name.replace('Harbour', 'Harbor').replace('Authority', 'Auth.').replace('Institute', 'Inst.');

/** Where a lead works: mostly somewhere new, at times an account that is on file already, spelt differently. */
function someone(random: Random, market: Market, company: Company, known: readonly Account[]) {
  if (known.length > 0 && random.chance(0.18)) {
    const { name, city, country, owner } = random.pick(known);
    return { organisation: respell(name), domain: domainOf(name), city, country, owner };
  }
  const { name, place, industry } = market.organisation();
  const owner = random.pick(company.reps.filter(({ team }) => team === teamOf[industry]));
  return { organisation: name, domain: domainOf(name), city: place.name, country: place.country, owner };
}

function convertedLead(
  book: Book,
  random: Random,
  market: Market,
  company: Company,
  createdOn: Day,
  on: Day,
  today: Day,
): LeadLife {
  const account = openAccount(book, random, market, company.reps, on, today);
  const { owner, name: organisation, city, country } = account;
  const contact = account.contacts[0] ?? addContact(book, random, market, account, on);
  const { name, email, phone } = book.row('contact', contact);
  const values = {
    name,
    organisation,
    email,
    phone,
    web: domainOf(organisation),
    city,
    country,
    currency: currencyIn(country),
  };
  const id = writeLead(book, random, owner, createdOn, values);
  const happening = { at: `${on}T14:30:00.000Z`, person: owner.id, through: 'conversion' as const };
  book.change('lead', id, happening, {
    status: 'converted',
    convertedAt: happening.at,
    contact,
    account: account.id,
  });
  return { id, owner, createdOn, endedOn: on, converted: { account, contact } };
}

function writeLead(book: Book, random: Random, owner: Rep, on: Day, values: Row): number {
  const source = random.weighted(sources);
  const row: Row = {
    name: null,
    organisation: null,
    role: random.pick(roles),
    email: null,
    phone: null,
    web: null,
    city: null,
    country: null,
    status: 'untouched',
    source,
    campaign: source === 'campaign' || source === 'fair' ? random.pick(campaigns) : null,
    interest: random.pick(interests),
    budget: random.chance(0.35) ? toMinor(random.int(8, 90) * 1000, 'GBP') : null,
    currency: null,
    timeFrame: random.weighted({ month: 1, quarter: 4, year: 3, later: 1 }),
    description: null,
    budgetMet: null,
    authorityMet: null,
    needMet: null,
    needNote: null,
    timingMet: null,
    questionsMet: 0,
    score: 0,
    disqualifyReason: null,
    disqualifiedAt: null,
    owner: owner.id,
    convertedAt: null,
    contact: null,
    account: null,
    deal: null,
    ...values,
  };
  return book.create('lead', { at: `${on}T08:${random.int(10, 59)}:00.000Z`, person: owner.id }, row);
}

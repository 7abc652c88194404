import { addDays, addMonths, type Day } from '@zawn/core';
import { formGroups, joinSecondAccounts } from './bonds';
import { Book } from './book';
import { nameWhoDecides } from './decisions';
import { writeGuides } from './guides';
import { foundCompany, type Company } from './company';
import { writeMails } from './correspondence';
import { liveDeal, type DealLife } from './deal-life';
import { workday } from './workday';
import { liveLead, type LeadLife } from './lead-life';
import { addContact, Market, openAccount, type Account } from './market';
import { Random } from './random';
import { fillOwnFields, makeOwnFields } from './own-fields';
import { writeScoreRules } from './scoring';
import { rememberReadiness } from './readiness';
import { recordLastCalls } from './recordings';
import { fillTasks } from './task-parts';
import { signAnew } from './signatures';
import { listProducts, nameRenewals, reopenSome } from './sold';
import { saveViews } from './views';
import { enterTwice } from './twins';
import { openWaysIn } from './ways-in';
import { holdMeetings } from './meetings';
import { Workbook } from './work';

const MONTHS = 24;

/** How much of everything is made. */
interface Size {
  leads: number;
  /** Accounts that were there before the two years began, and those that were added without a lead. */
  oldAccounts: number;
  newAccounts: number;
  deals: number;
  /** Likelihood that an account has one more contact than usual. */
  moreContacts: number;
}

const SMALL: Size = { leads: 600, oldAccounts: 120, newAccounts: 70, deals: 450, moreContacts: 0 };

/** The large set is so many pages of this size: what is written down before the next is made. */
const PAGES = 445;
const PAGE: Size = { leads: 225, oldAccounts: 26, newAccounts: 0, deals: 450, moreContacts: 0.97 };

/** How busy each month of the year is: spring and autumn, before and after the season at sea. */
const SEASON = [0.8, 1, 1.25, 1.2, 1.05, 0.85, 0.6, 0.65, 1.2, 1.35, 1.15, 0.6];

/** A working day of the two years, more likely in season and as the company grew. */
function drawDay(random: Random, start: Day, days: number): Day {
  for (;;) {
    const share = random.unit();
    const day = addDays(start, Math.floor(share * days));
    const busy = SEASON[Number(day.slice(5, 7)) - 1] * (0.55 + 0.75 * share);
    if (random.chance(busy / 1.8))
      return workday(day) < addDays(start, days) ? workday(day) : addDays(workday(day), -3);
  }
}

/** The demo company with its last 24 months: the same rows for the same seed and the same today. */
export function generateDemo(today: Day, seed = 6): Book {
  const random = new Random(seed);
  const book = new Book();
  const company = foundCompany(book, random, today);
  const lived = live(book, random, company, new Market(random), SMALL, today);
  fillGrids(book, new Random(seed + 4), company, lived, today);
  makeOwnFields(book, String(book.row('team', 1).createdAt));
  fillOwnFields(book, new Random(seed + 1), today);
  signAnew(book, today);
  formGroups(book, today);
  joinSecondAccounts(book, today);
  nameWhoDecides(book, new Random(seed + 5));
  writeGuides(
    book,
    new Random(seed + 6),
    new Random(seed + 10),
    String(book.row('team', 1).createdAt).slice(0, 10),
  );
  listProducts(book, new Random(seed + 7), String(book.row('team', 1).createdAt).slice(0, 10));
  nameRenewals(book);
  reopenSome(book, new Random(seed + 8), today);
  recordLastCalls(book);
  fillTasks(book, new Random(seed + 11), today);
  rememberReadiness(book, new Random(seed + 9), today);
  enterTwice(book, today);
  holdMeetings(book, today);
  saveViews(book, today);
  openWaysIn(book, new Random(seed + 2), today);
  writeScoreRules(book, today);
  writeMails(book, new Random(seed + 3), today);
  return book;
}

/** The same company many hundred times as busy, a page of its book at a time; each is to be laid down before the next. */
export function* generateLarge(today: Day, seed = 6): Generator<Book> {
  const random = new Random(seed);
  // Of two million activities the log alone would be larger than everything else.
  const book = new Book(new Set(['activity', 'note']));
  // Ten people win what some hundred times as many deals bring, and are measured by that.
  const company = foundCompany(book, random, today, (PAGES * PAGE.deals) / SMALL.deals);
  makeOwnFields(book, String(book.row('team', 1).createdAt));
  for (let page = 1; page <= PAGES; page += 1) {
    live(book, random, company, new Market(random, ` ${page}`), PAGE, today);
    fillOwnFields(book, random, today);
    if (page === 1) saveViews(book, today);
    yield book;
    book.turnPage();
  }
}

/** What the two years left. */
interface Lived {
  accounts: readonly Account[];
  deals: readonly DealLife[];
}

/** Lives the two years through: accounts, leads, deals, and the work on them. */
function live(book: Book, random: Random, company: Company, market: Market, size: Size, today: Day): Lived {
  const start = addMonths(today, -MONTHS);
  const days = Math.round((Date.parse(today) - Date.parse(start)) / 86_400_000);
  const draw = (count: number) => Array.from({ length: count }, () => drawDay(random, start, days)).sort();

  const accounts: Account[] = [];
  for (let index = 0; index < size.oldAccounts; index += 1)
    accounts.push(openAccount(book, random, market, company.reps, start, today));
  for (const day of draw(size.newAccounts))
    accounts.push(openAccount(book, random, market, company.reps, day, today));

  const leads: LeadLife[] = draw(size.leads).map((day) =>
    liveLead(book, random, market, company, day, today, accounts.slice(0, size.oldAccounts)),
  );
  const deals: DealLife[] = [];
  for (const lead of leads) {
    if (!lead.converted || !lead.endedOn) continue;
    accounts.push(lead.converted.account);
    const source = String(book.row('lead', lead.id).source);
    const deal = liveDeal(
      book,
      random,
      company,
      { ...lead.converted, createdOn: lead.endedOn, kind: 'station', source, lead: lead.id },
      today,
    );
    book.row('lead', lead.id).deal = deal.id;
    deals.push(deal);
  }
  for (const day of draw(size.deals - deals.length)) {
    const account = random.pick(accounts.filter(({ since }) => since <= day));
    const kind = random.chance(0.42) ? 'renewal' : 'station';
    const contact = random.pick(account.contacts);
    deals.push(
      liveDeal(book, random, company, { account, contact, createdOn: day, kind, source: 'existing' }, today),
    );
  }
  if (size.moreContacts > 0)
    for (const account of accounts)
      if (random.chance(size.moreContacts)) addContact(book, random, market, account, account.since);
  makeCustomers(book, deals);

  const work = new Workbook(book, random, today);
  for (const deal of deals) work.forDeal(deal);
  for (const lead of leads) work.forLead(lead);
  for (const account of accounts) work.forAccount(account);
  return { accounts, deals };
}

/** Station sales that each rep has open at least, and in how many stages, so that everybody's grid shows a quarter's work. */
const OPEN_EACH = 10;
const STAGES_EACH = 3;
/** Deals that are begun for one rep at most: some close at once. */
const MOST_BEGUN = 30;

/** Lately begun deals of the reps whom the two years left with few open ones, and the work on them. */
function fillGrids(book: Book, random: Random, company: Company, lived: Lived, today: Day): void {
  const work = new Workbook(book, random, today);
  const isOpen = ({ outcome, kind }: DealLife) => outcome === 'open' && kind === 'station';
  for (const rep of company.reps) {
    const accounts = lived.accounts.filter(({ owner }) => owner.id === rep.id);
    const open = lived.deals.filter((deal) => isOpen(deal) && deal.account.owner.id === rep.id);
    const stages = () => new Set(open.map(({ id }) => book.row('deal', id).stage)).size;
    const isFull = () => open.length >= OPEN_EACH && stages() >= STAGES_EACH;
    for (let begun = 0; !isFull() && begun < MOST_BEGUN; begun += 1) {
      const createdOn = workday(addDays(today, -random.int(5, 70)));
      const account = random.pick(accounts.filter(({ since }) => since < createdOn));
      const contact = random.pick(account.contacts);
      const start = { account, contact, createdOn, kind: 'station', source: 'existing' } as const;
      const deal = liveDeal(book, random, company, start, today);
      work.forDeal(deal);
      if (isOpen(deal)) open.push(deal);
    }
  }
}

/** Accounts and people who bought are customers. */
function makeCustomers(book: Book, deals: readonly DealLife[]): void {
  for (const { outcome, account, contact } of deals) {
    if (outcome !== 'won') continue;
    book.row('account', account.id).relationship = 'customer';
    book.row('contact', contact).relationship = 'customer';
  }
}

import { addDays, daysBetween, type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { type Rep } from './company';
import { type DealLife } from './deal-life';
import { workday } from './workday';
import { type LeadLife } from './lead-life';
import { type Account } from './market';
import { type Random } from './random';
import { calls, firstTouches, meetings, noteTexts, results, tasks } from './words';

type Links = { lead?: number; contact?: number; account?: number; deal?: number };

const callOutcomes = {
  interested: 22,
  agreed: 20,
  callBack: 16,
  noAnswer: 24,
  message: 12,
  notInterested: 6,
};

/** Of the calls that agreed on something, some agreed on a meeting. */
const ends = (id: number, kind: string, outcome: string | null) =>
  kind === 'call' && outcome === 'agreed' && id % 3 === 0 ? 'meetingAgreed' : outcome;

/** Fills the days of the reps: what was done on deals, leads and accounts, and what is planned next. */
export class Workbook {
  constructor(
    private readonly book: Book,
    private readonly random: Random,
    private readonly today: Day,
  ) {}

  forDeal({ id, account, contact, createdOn, closedOn }: DealLife): void {
    const links = { deal: id, contact, account: account.id };
    const until = closedOn ?? this.today;
    let day = createdOn;
    for (;;) {
      day = workday(addDays(day, this.random.int(3, 15)));
      if (day >= until) break;
      this.done(account.owner, day, links);
    }
    if (this.random.chance(0.35)) this.note(account.owner, workday(addDays(createdOn, 3)), links);
    if (closedOn === null) this.next(account.owner, links, 1);
  }

  forLead({ id, owner, createdOn, endedOn, converted }: LeadLife): void {
    const links: Links = { lead: id, contact: converted?.contact, account: converted?.account.id };
    const until = endedOn ?? this.today;
    const touches = this.random.int(1, 4);
    let day = workday(addDays(createdOn, this.random.int(0, 3)));
    for (let touch = 0; touch < touches && day < until; touch += 1) {
      this.done(owner, day, links, touch === 0 ? this.random.pick(firstTouches) : undefined);
      day = workday(addDays(day, this.random.int(2, 9)));
    }
    if (endedOn === null) this.next(owner, links, 0.75);
  }

  /** Calls that keep an account warm between deals. */
  forAccount(account: Account): void {
    const links = { account: account.id, contact: account.contacts[0] };
    let day = addDays(account.since, this.random.int(20, 90));
    while (day < this.today) {
      this.done(account.owner, workday(day), links);
      day = addDays(day, this.random.int(50, 150));
    }
    if (this.random.chance(0.05)) this.next(account.owner, links, 0.6);
  }

  private done(owner: Rep, day: Day, links: Links, name?: string): void {
    if (day >= this.today) return;
    const kind = name ? 'call' : this.random.weighted({ call: 52, task: 30, meeting: 18 });
    const written = this.random.chance(owner.discipline);
    const at = `${day}T${String(this.random.int(8, 16)).padStart(2, '0')}:${this.random.int(10, 59)}:00.000Z`;
    const outcome =
      kind === 'task' || !written ? null : kind === 'call' ? this.random.weighted(callOutcomes) : 'agreed';
    const result =
      outcome !== null && outcome !== 'noAnswer' && this.random.chance(0.6)
        ? this.random.pick(results)
        : null;
    const minutes =
      kind === 'task' ? null : kind === 'call' ? this.random.int(1, 25) : this.random.int(30, 120);
    // Whom nobody reached nobody talked to.
    const lasted = outcome === 'noAnswer' ? 0 : minutes;
    const id = this.plan(owner, addDays(day, -this.random.int(1, 8)), { kind, name, dueOn: day }, links);
    const call = kind === 'call' ? this.onTheLine(id, links) : {};
    this.book.change(
      'activity',
      id,
      { at, person: owner.id },
      { outcome: ends(id, kind, outcome), minutes: lasted, doneAt: at, doneBy: owner.id, result, ...call },
    );
  }

  /** Which way a call went, and to which number. */
  private onTheLine(id: number, { lead, contact }: Links): Row {
    const called = contact ? this.book.row('contact', contact) : lead && this.book.row('lead', lead);
    return { direction: id % 7 === 0 ? 'in' : 'out', number: (called && called.phone) || null };
  }

  /** The next step, if the rep is one to plan it: mostly in the days to come, at times overdue. */
  private next(owner: Rep, links: Links, share: number): void {
    if (!this.random.chance(owner.discipline * share)) return;
    const late = this.random.chance((1 - owner.discipline) * 0.7 + 0.04);
    const soon = this.random.chance(0.18);
    const offset = late ? -this.random.int(1, 12) : soon ? 0 : this.random.int(1, 20);
    const day = offset === 0 ? this.today : workday(addDays(this.today, offset));
    const dueOn = late && daysBetween(this.today, day) >= 0 ? addDays(this.today, -1) : day;
    const kind = this.random.weighted({ call: 50, task: 30, meeting: 20 });
    const plannedOn = addDays(dueOn < this.today ? dueOn : this.today, -this.random.int(1, 9));
    this.plan(owner, plannedOn, { kind, dueOn }, links);
  }

  private plan(owner: Rep, on: Day, what: { kind: string; dueOn: Day; name?: string }, links: Links): number {
    const { kind, dueOn } = what;
    const name =
      what.name ?? this.random.pick({ call: calls, meeting: meetings, task: tasks }[kind] ?? tasks);
    const timed = kind === 'meeting' || this.random.chance(0.25);
    const row: Row = {
      name,
      kind,
      dueOn,
      dueAt: timed
        ? `${String(this.random.int(8, 16)).padStart(2, '0')}:${this.random.pick(['00', '30'])}`
        : null,
      priority: this.random.weighted({ normal: 8, high: 2, low: 1 }),
      description: null,
      owner: owner.id,
      lead: links.lead ?? null,
      contact: links.contact ?? null,
      account: links.account ?? null,
      deal: links.deal ?? null,
      outcome: null,
      minutes: null,
      direction: null,
      number: null,
      recording: null,
      steps: null,
      stepsDone: null,
      remarked: null,
      doneAt: null,
      doneBy: null,
      result: null,
    };
    return this.book.create('activity', { at: `${workday(on)}T07:45:00.000Z`, person: owner.id }, row);
  }

  private note(owner: Rep, day: Day, links: Links): void {
    if (day >= this.today) return;
    const { lead = null, contact = null, account = null, deal = null } = links;
    const row: Row = { body: this.random.pick(noteTexts), owner: owner.id, lead, contact, account, deal };
    this.book.create('note', { at: `${day}T15:20:00.000Z`, person: owner.id }, row);
  }
}

import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import {
  carryOvers,
  CONVERTED,
  conversionParts,
  matchAccounts,
  matchContacts,
  policyOf,
  proposeConversion,
  workDomain,
  type Actor,
  type AnyRecord,
  type Candidate,
  type CarryOver,
  type ConversionChoice,
  type ConversionKey,
  type ConversionPart,
  type ConversionPreview,
  type ConversionProposal,
  type Converted,
  type NamedCandidate,
  type ObjectKey,
  type OwnCarryOver,
  type Policy,
  type RecordOf,
  type Undone,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { closeDeal } from '../deals/closing';
import { Problem } from '../../platform/http/problem';
import { AlikeFinder, type OnFileRecord } from '../matching/alike';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Values } from '../../kernel/records/record-hooks';
import { Undo } from '../../kernel/records/undo';
import { type Unit } from '../../kernel/records/unit';

const SHOWN = 5;

@Injectable()
export class Conversion {
  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly alike: AlikeFinder,
    private readonly undo: Undo,
    private readonly organisation: Organisation,
    private readonly database: Database,
  ) {}

  /** What the lead would become, and the contacts and accounts that may be there already, with why. */
  async preview(actor: Actor, id: number): Promise<ConversionPreview> {
    const lead = (await this.gate.find(actor, 'lead', id)) as AnyRecord & RecordOf<'lead'>;
    const { today, reportingCurrency } = await this.gate.context(actor);
    const person = { name: lead.name, email: lead.email, domain: lead.web };
    const domain = lead.web ?? workDomain(lead.email);
    const [contacts, accounts] = await Promise.all([
      this.alike.near(actor, 'contact', lead.name, { email: lead.email }),
      this.alike.near(actor, 'account', lead.organisation ?? '', { domain }),
    ]);
    return {
      proposal: seenOf(
        policyOf(actor),
        proposeConversion(lead, await this.carryOvers(), today, reportingCurrency),
      ),
      contacts: named(matchContacts(person, contacts), contacts, 'email'),
      accounts: named(
        matchAccounts({ ...person, name: lead.organisation ?? '' }, accounts),
        accounts,
        'city',
      ),
    };
  }

  /** Converts a lead in one unit: records made or linked, what was planned and noted comes along. */
  async convert(
    writing: WriteContext,
    id: number,
    version: number,
    choice: ConversionChoice,
  ): Promise<Written<Converted>> {
    const { today, reportingCurrency } = await this.gate.context(writing.actor);
    const carried = await this.carryOvers();
    return this.door.write({ ...writing, through: 'conversion' }, async (unit) => {
      const lead = await unit.find('lead', id);
      unit.mustMay('convertLeads');
      if (lead.convertedAt) throw new Problem('conflict', 'This lead has been converted already.');
      unit.label = `Converted “${String(lead.name)}”`;
      const whole = proposeConversion(lead as unknown as RecordOf<'lead'>, carried, today, reportingCurrency);
      const unseen = (part: ConversionKey) => hiddenOf(unit.policy, part, whole[part] ?? {});
      const account =
        choice.account && (await settle(unit, 'account', choice.account, { unseen: unseen('account') }));
      const links = { account };
      const contact = await settle(unit, 'contact', choice.contact, { links, unseen: unseen('contact') });
      const others: number[] = [];
      for (const other of choice.others ?? []) others.push(await settle(unit, 'contact', other, { links }));
      const deal = choice.deal && (await unit.create('deal', { ...choice.deal, contact, account })).id;
      if (deal) {
        const known = { lead: id, ...unseen('deal') };
        const made = await unit.change('deal', deal, known, {
          setter: 'feature',
          permittedBy: 'convertLeads',
        });
        if (choice.won) await closeDeal(unit, made, { outcome: 'won', closedOn: today });
      }
      const done = { status: CONVERTED, convertedAt: unit.at, contact, account, deal };
      const converted = await unit.change('lead', id, done, { version, setter: 'feature' });
      await bringAlong(unit, id, { contact, account, deal });
      return { lead: converted, contact, others, account, deal };
    });
  }

  /**
   * Takes a conversion back as a whole.
   * @throws Problem `conflict` with what rests on it by now.
   */
  async reverse(actor: Actor, id: number): Promise<Written<Undone>> {
    const lead = await this.gate.find(actor, 'lead', id);
    // It may be somebody else's doing that is taken back, so it is permitted like doing it.
    const mayEdit = (await this.gate.mayWith(actor, 'lead', lead)).includes('edit');
    if (!mayEdit || !policyOf(actor).may('convertLeads'))
      throw new Problem('not-allowed', 'Your role does not let you convert leads, or reverse that.');
    if (!lead.convertedAt) throw new Problem('conflict', 'This lead has not been converted.');
    const done = await this.database.reading.manager
      .createQueryBuilder()
      .select('c.unit', 'unit')
      .from('change', 'c')
      .innerJoin('unit', 'u', 'u.id = c.unit')
      .where(`c.object = 'lead' AND c.record = :id AND c.field = 'convertedAt'`, { id })
      .andWhere(`u.undoneBy IS NULL AND u.through = 'conversion'`)
      .orderBy('c.id', 'DESC')
      .getRawOne<{ unit: number }>();
    if (!done) throw new Problem('conflict', 'This lead came in converted, so there is nothing to reverse.');
    return this.undo.undo({ actor }, done.unit, 'anyones');
  }

  /** Where each field of a lead goes. */
  private async carryOvers(): Promise<Map<string, CarryOver>> {
    const own = await this.database.reading.manager.findBy<OwnCarryOver>('carryOver', {
      deletedAt: IsNull(),
    } as object);
    return carryOvers(await this.organisation.catalogue(), own);
  }
}

function named(
  candidates: readonly Candidate[],
  records: readonly OnFileRecord[],
  detail: string,
): NamedCandidate[] {
  const byId = new Map(records.map((record) => [record.id, record]));
  return candidates.slice(0, SHOWN).map((candidate) => {
    const record = byId.get(candidate.id);
    return { ...candidate, name: record?.name ?? '', detail: String(record?.[detail] ?? '') };
  });
}

/** What a part holds of the fields that somebody does not see there. */
function hiddenOf(policy: Policy, part: ConversionKey, values: Values): Values {
  const unseen = policy.hidden(part);
  return Object.fromEntries(Object.entries(values).filter(([key]) => unseen.has(key)));
}

/** A proposal with only the fields that somebody sees. */
function seenOf(policy: Policy, proposal: ConversionProposal): ConversionProposal {
  const parts = conversionParts.map((part) => {
    const unseen = policy.hidden(part);
    const values = proposal[part];
    return [part, values && Object.fromEntries(Object.entries(values).filter(([key]) => !unseen.has(key)))];
  });
  return Object.fromEntries(parts) as ConversionProposal;
}

interface Settling {
  /** Links of the record, where it has none yet. */
  links?: Values;
  /** What a new record takes over beside what somebody chose, as they do not see those fields of it. */
  unseen?: Values;
}

/** The id of the record a part links to or creates. A linked record keeps what it has. */
async function settle(
  unit: Unit,
  object: ObjectKey,
  part: ConversionPart,
  { links = {}, unseen = {} }: Settling,
): Promise<number> {
  if ('link' in part) {
    const record = await unit.find(object, part.link);
    const missing = Object.entries(links).filter(([key, value]) => value !== null && record[key] === null);
    if (missing.length > 0) await unit.change(object, record.id, Object.fromEntries(missing));
    return record.id;
  }
  const { id } = await unit.create(object, { ...part.create, ...links });
  // A field that nobody sees of those who convert is carried over all the same, into one that they do not see either.
  await unit.change(object, id, unseen, { setter: 'feature', permittedBy: 'convertLeads' });
  return id;
}

/** Everything on the lead's timeline shows on the new records too; open activities become theirs. */
async function bringAlong(unit: Unit, lead: number, links: Values): Promise<void> {
  const on = async (object: ObjectKey): Promise<number[]> => {
    const rows = await unit.manager
      .createQueryBuilder()
      .select('r.id', 'id')
      .from(object, 'r')
      .where('r.lead = :lead AND r.deletedAt IS NULL', { lead })
      .getRawMany<{ id: number }>();
    return rows.map(({ id }) => id);
  };
  for (const object of ['activity', 'note', 'mail', 'file'] as const)
    for (const id of await on(object)) await unit.change(object, id, links, { setter: 'feature' });
  // What was about the lead beside others is about whom it has become.
  const parts = await unit.everyones('activityLink', await on('activityLink'));
  for (const part of parts.values())
    await unit.alter('activityLink', part, { lead: null, contact: links.contact ?? null });
}

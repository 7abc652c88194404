import { Injectable } from '@nestjs/common';
import {
  matchAccounts,
  matchContacts,
  proposeConversion,
  workDomain,
  type Actor,
  type AnyRecord,
  type Candidate,
  type ConversionChoice,
  type ConversionPart,
  type ConversionPreview,
  type Converted,
  type NamedCandidate,
  type ObjectKey,
  type RecordOf,
  type Written,
} from '@zawn/core';
import { Problem } from '../http/problem';
import { AlikeFinder, type OnFileRecord } from '../matching/alike';
import { Gate } from '../questions/gate';
import { Door, type Writing } from '../records/door';
import { type Values } from '../records/meaning';
import { type Unit } from '../records/unit';

const SHOWN = 5;

@Injectable()
export class Conversion {
  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly alike: AlikeFinder,
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
      proposal: proposeConversion(lead, today, reportingCurrency),
      contacts: named(matchContacts(person, contacts), contacts, 'email'),
      accounts: named(
        matchAccounts({ ...person, name: lead.organisation ?? '' }, accounts),
        accounts,
        'city',
      ),
    };
  }

  /** Converts a lead in one unit: records made or linked, what was planned and noted comes along. */
  convert(
    writing: Writing,
    id: number,
    version: number,
    choice: ConversionChoice,
  ): Promise<Written<Converted>> {
    return this.door.write({ ...writing, through: 'conversion' }, async (unit) => {
      const lead = await unit.find('lead', id);
      if (lead.convertedAt) throw new Problem('conflict', 'This lead has been converted already.');
      unit.label = `Converted “${String(lead.name)}”`;
      const account = choice.account && (await settle(unit, 'account', choice.account));
      const contact = await settle(unit, 'contact', choice.contact, { account });
      const deal = choice.deal && (await unit.create('deal', { ...choice.deal, contact, account })).id;
      if (deal) await unit.change('deal', deal, { lead: id }, { setter: 'feature' });
      const done = { status: 'converted', convertedAt: unit.at, contact, account, deal };
      const converted = await unit.change('lead', id, done, { version, setter: 'feature' });
      await bringAlong(unit, id, { contact, account, deal });
      return { lead: converted, contact, account, deal };
    });
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

/** The id of the record a part links to or creates. A linked record keeps what it has. */
async function settle(
  unit: Unit,
  object: ObjectKey,
  part: ConversionPart,
  links: Values = {},
): Promise<number> {
  if ('link' in part) {
    const record = await unit.find(object, part.link);
    const missing = Object.entries(links).filter(([key, value]) => value !== null && record[key] === null);
    if (missing.length > 0) await unit.change(object, record.id, Object.fromEntries(missing));
    return record.id;
  }
  return (await unit.create(object, { ...part.create, ...links })).id;
}

/** Everything on the lead's timeline shows on the new records too; open activities become theirs. */
async function bringAlong(unit: Unit, lead: number, links: Values): Promise<void> {
  for (const object of ['activity', 'note', 'mail'] as const) {
    const rows = await unit.manager
      .createQueryBuilder()
      .select('r.id', 'id')
      .from(object, 'r')
      .where('r.lead = :lead AND r.deletedAt IS NULL', { lead })
      .getRawMany<{ id: number }>();
    for (const { id } of rows) await unit.change(object, id, links, { setter: 'feature' });
  }
}

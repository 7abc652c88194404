import { IsNull } from 'typeorm';
import {
  dayIn,
  partsOf,
  renewalDue,
  renewalValues,
  type AnyRecord,
  type RecordOf,
  type RenewalTerms,
} from '@zawn/core';
import { type OrganisationRow } from '../../platform/database/rows';
import { Problem } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** The renewal that a deal has already, whoever sees it. */
const renewalOf = (unit: Unit, deal: number) =>
  unit.manager.findOneBy<AnyRecord>('deal', { renewalOf: deal, deletedAt: IsNull() });

function refuseSecond(other: AnyRecord | null): void {
  if (other)
    throw new Problem(
      'conflict',
      `This deal has been renewed already: ${String(other.number)}. Open that one.`,
    );
}

/** The pipeline that a renewal goes through, and its first stage. */
async function wayOf(unit: Unit, terms: RenewalTerms) {
  const pipeline = await unit.find('pipeline', Number(terms.renewsIn));
  if (pipeline.retired === true)
    throw new Problem(
      'conflict',
      `${String(pipeline.name)}, in which it would be renewed, is retired. Name another under Setup, Pipelines and stages.`,
    );
  const stages = await unit.manager.find<AnyRecord & RecordOf<'stage'>>('stage', {
    where: { pipeline: pipeline.id, deletedAt: IsNull() },
    order: { position: 'ASC' },
  });
  const first = stages.find(({ retired }) => retired !== true);
  if (!first)
    throw new Problem('conflict', `${String(pipeline.name)}, in which it would be renewed, has no stages.`);
  return { pipeline: pipeline.id, stage: first.id };
}

/** Whoever owned the deal, or where they are here no more whoever renews it. */
async function ownerOf(unit: Unit, deal: AnyRecord): Promise<number> {
  const owner = await unit.find('person', Number(deal.owner)).catch(() => undefined);
  return owner && owner.active !== false ? owner.id : unit.actor.personId;
}

/** What is sold, as values of new lines; without lines of products that are not sold any more, unless named in words. */
async function linesOf(unit: Unit, deal: AnyRecord) {
  const [kind] = partsOf('deal');
  const lines = await unit.partsOn(kind, deal.id);
  const retired = new Set(
    (await unit.manager.findBy<AnyRecord>('product', { retired: true, deletedAt: IsNull() })).map(
      ({ id }) => id,
    ),
  );
  return lines.map(({ product, name, quantity, unitPrice }) => ({
    // What is not sold any more stays in words.
    product: retired.has(Number(product)) ? null : product,
    name,
    quantity,
    unitPrice,
  }));
}

/**
 * Makes the renewal of a won deal: same account, contacts and lines, due as its pipeline says.
 * @throws Problem `conflict` where it was not won, its pipeline names no renewal, or it was renewed before.
 */
export async function renewDeal(unit: Unit, deal: AnyRecord): Promise<AnyRecord> {
  const terms = (await unit.find('pipeline', Number(deal.pipeline))) as AnyRecord & RecordOf<'pipeline'>;
  const due = renewalDue(deal, terms);
  if (due === undefined)
    throw new Problem(
      'conflict',
      deal.outcome === 'won'
        ? `${terms.name} says nothing about renewals. Say where its deals are renewed, and when, under Setup, Pipelines and stages.`
        : 'Only a won deal is renewed.',
    );
  refuseSecond(await renewalOf(unit, deal.id));
  const { timeZone } = await unit.manager.findOneByOrFail<OrganisationRow>('organisation', { id: 1 });
  const begins = { due, today: dayIn(timeZone, unit.at), ...(await wayOf(unit, terms)) };
  const lines = await linesOf(unit, deal);
  unit.label = `Renewed “${String(deal.name)}”`;
  const renewal = await unit.create(
    'deal',
    {
      ...renewalValues(unit.catalogue, deal, begins),
      owner: await ownerOf(unit, deal),
      outcome: 'open',
      stageSince: unit.at,
      ...(lines.length > 0 ? { lines } : {}),
      ...(deal.valueFrom === 'lines' && lines.length > 0 ? { valueFrom: 'lines' } : {}),
    },
    'feature',
    ['account', 'contact', 'renewalOf'],
  );
  const parts = await unit.manager.findBy<AnyRecord>('dealContact', {
    deal: deal.id,
    deletedAt: IsNull(),
  });
  for (const { contact, role, stance } of parts)
    await unit.create('dealContact', { deal: renewal.id, contact, role, stance }, 'feature', ['contact']);
  return renewal;
}

/** A deal has one renewal at most, also when one comes back from the bin. */
export const renewalHooks: RecordHooks = {
  object: 'deal',
  order: 2,
  async afterRestore(unit, deal) {
    if (deal.renewalOf === null) return;
    const all = await unit.manager.findBy<AnyRecord>('deal', {
      renewalOf: deal.renewalOf,
      deletedAt: IsNull(),
    });
    refuseSecond(all.find(({ id }) => id !== deal.id) ?? null);
  },
};

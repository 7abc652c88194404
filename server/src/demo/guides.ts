import { type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { type Random } from './random';

type Asked = Pick<Row, 'kind'> & Partial<Record<'label' | 'field' | 'activityKind' | 'role', string>>;
interface Guide {
  pipeline: string;
  /** What is asked in each stage, the first stage first; what stands in `needed` is required. */
  stages: { advice: Asked[]; needed?: Asked[] }[];
}

const tick = (label: string): Asked => ({ kind: 'tick', label });
const field = (path: string, label?: string): Asked => ({
  kind: 'field',
  field: path,
  ...(label ? { label } : {}),
});
const done = (activityKind: string, label?: string): Asked => ({
  kind: 'activity',
  activityKind,
  ...(label ? { label } : {}),
});
const named = (role: string): Asked => ({ kind: 'role', role });

/** What Brackwater wants to know and have done, stage by stage. */
const guides: Guide[] = [
  {
    pipeline: 'Station sales',
    stages: [
      { advice: [tick('Which waters, how deep, how far from power'), done('call'), field('source')] },
      { advice: [tick('Access to the site agreed'), field('contact', 'Who meets us there')] },
      { advice: [done('meeting'), tick('Photos of the site filed')] },
      { advice: [named('decides'), named('pays'), field('competitors')], needed: [field('value')] },
      { advice: [tick('Purchase order announced'), field('account.street', 'Where to deliver')] },
    ],
  },
  {
    pipeline: 'Service renewals',
    stages: [
      { advice: [tick('Readings of the last year sent'), done('call')] },
      { advice: [named('decides')], needed: [field('value')] },
      { advice: [tick('New end of contract noted')] },
    ],
  },
];

const blank = { stage: null, status: null, label: null, field: null, activityKind: null, role: null };

/** What Brackwater wants to know of a lead, status by status. */
const leadGuides: Record<string, Asked[]> = {
  untouched: [
    tick('Read what came in'),
    tick('Look who else knows them'),
    done('call', 'Call within the day'),
  ],
  working: [
    field('interest', 'What do they want to measure, and where'),
    tick('Who decides'),
    field('budget'),
  ],
  waiting: [tick('Agree on a day to hear again')],
  qualified: [field('organisation'), tick('Agree on the first next step')],
};

/** Something to tick, and where on its way it is asked. */
interface Ticked {
  item: number;
  stage: number;
  position: number;
}

/** The guides of both pipelines and of leads, and what of them was ticked for open deals and leads. */
export function writeGuides(book: Book, random: Random, ofLeads: Random, founded: Day): void {
  const when = { at: `${founded}T09:00:00.000Z`, person: null };
  const ticks: Ticked[] = [];
  for (const { pipeline, stages } of guides) {
    const of = book.rows('pipeline').find(({ name }) => name === pipeline);
    const inOrder = book
      .rows('stage')
      .filter((stage) => stage.pipeline === of?.id)
      .sort((a, b) => Number(a.position) - Number(b.position));
    for (const [at, stage] of inOrder.entries()) {
      const { advice = [], needed = [] } = stages.at(at) ?? {};
      for (const [position, asked] of [...needed, ...advice].entries()) {
        const item = book.create('guideItem', when, {
          ...blank,
          ...asked,
          stage: Number(stage.id),
          position,
          needed: position < needed.length,
          retired: null,
        });
        if (asked.kind === 'tick') ticks.push({ item, stage: Number(stage.id), position: at });
      }
    }
  }
  const positions = new Map(book.rows('stage').map(({ id, position }) => [Number(id), Number(position)]));
  const pipelineOf = new Map(book.rows('stage').map(({ id, pipeline }) => [Number(id), Number(pipeline)]));
  for (const deal of book.rows('deal')) {
    if (deal.outcome !== 'open') continue;
    for (const { item, stage } of ticks) {
      if (pipelineOf.get(stage) !== Number(deal.pipeline)) continue;
      const behind = (positions.get(Number(deal.stage)) ?? 0) - (positions.get(stage) ?? 0);
      if (behind < 0 || !random.chance(behind > 0 ? 0.85 : 0.35)) continue;
      const happened = { at: String(deal.stageSince), person: Number(deal.owner) };
      book.create('guideTick', happened, { deal: Number(deal.id), lead: null, item, note: null });
    }
  }
  writeLeadGuides(book, ofLeads, when);
}

/** What is asked of leads is advice alone: a lead is taken as it comes. */
function writeLeadGuides(book: Book, random: Random, when: { at: string; person: null }): void {
  const statuses = Object.keys(leadGuides);
  const ticks = statuses.flatMap((status, at) =>
    leadGuides[status].flatMap((asked, position) => {
      const item = book.create('guideItem', when, {
        ...blank,
        ...asked,
        status,
        position,
        needed: false,
        retired: null,
      });
      return asked.kind === 'tick' ? [{ item, at }] : [];
    }),
  );
  for (const lead of book.rows('lead')) {
    const here = statuses.indexOf(String(lead.status));
    for (const { item, at } of ticks) {
      if (at > here || !random.chance(at < here ? 0.8 : 0.3)) continue;
      const happened = { at: String(lead.createdAt), person: Number(lead.owner) };
      book.create('guideTick', happened, { deal: null, lead: Number(lead.id), item, note: null });
    }
  }
}

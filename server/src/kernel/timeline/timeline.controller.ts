import Joi from 'joi';
import { Controller, Get } from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import {
  ask,
  subjectKeys,
  type Actor,
  type SubjectKey,
  type TimelineEntry,
  type TimelinePage,
} from '@zawn/core';
import { CheckedQuery, type CheckedAs, RecordId, ObjectAt } from '../../platform/http/checked';
import { discovered } from '../../platform/discovered';
import { invalidInput } from '../../platform/http/problem';
import { Gate } from '../questions/gate';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { InTimeline, type Subjects, type TimelineSource } from './timeline-source';
import { ForPrograms } from '../../platform/sessions/scopes';

const PAGE = 50;
const FIRST_INSTANT_AFTER_ALL = '9999';

/** Where the page begins, which kinds it holds, and a text that entries say. */
const asked = Joi.object<{ before: string; kinds?: string; text?: string }>({
  before: Joi.string().max(40).default(FIRST_INSTANT_AFTER_ALL),
  kinds: Joi.string()
    .pattern(/^[a-z]{1,20}(,[a-z]{1,20}){0,20}$/i)
    .label('Kinds'),
  text: Joi.string().max(200).allow('').label('Text'),
});

/** The story of a record, newest first: an account's includes its contacts' and deals', a converted lead's goes along. */
@ForPrograms()
@Controller('api/v1/:objects/:id/timeline')
export class TimelineController {
  constructor(
    private readonly gate: Gate,
    private readonly discovery: DiscoveryService,
  ) {}

  /** What was said, done and changed about a record and what belongs to it, newest first. */
  @Get()
  async page(
    @CurrentActor() actor: Actor,
    @ObjectAt(subjectKeys) object: SubjectKey,
    @RecordId() id: number,
    @CheckedQuery(asked) { before: until, kinds, text }: CheckedAs<typeof asked>,
  ): Promise<TimelinePage> {
    const record = await this.gate.find(actor, object, id);
    const sources = this.sources(kinds);
    const subjects = await this.subjects(actor, object, record.id);
    const request = { actor, subjects, before: until, limit: PAGE, ...(text ? { text } : {}) };
    const parts = await Promise.all(sources.map((source) => source.entries(request)));
    const places = new Map(sources.map(({ kind, place }) => [kind, place]));
    const all = parts.flat().sort(newestFirst(places));
    const entries = wholeInstants(all);
    return {
      rows: entries,
      next: entries.length < all.length || all.length >= PAGE ? (entries.at(-1)?.at ?? null) : null,
    };
  }

  /**
   * What tells of these kinds, or of all.
   * @throws Problem `invalid-input` for a kind that nothing tells of.
   */
  private sources(kinds: string | undefined): TimelineSource[] {
    const all = discovered<TimelineSource>(this.discovery, InTimeline);
    if (kinds === undefined) return all;
    return kinds.split(',').map((kind) => {
      const source = all.find((each) => each.kind === kind);
      if (!source) throw invalidInput([{ field: 'kinds', message: `Kinds: there is none called “${kind}”` }]);
      return source;
    });
  }

  /** The records whose changes belong to the story, as far as the person may see them. */
  private async subjects(actor: Actor, object: SubjectKey, id: number): Promise<Subjects> {
    const behind: Record<SubjectKey, SubjectKey[]> = {
      lead: [],
      contact: ['lead', 'deal'],
      account: ['lead', 'contact', 'deal'],
      deal: ['lead'],
    };
    const linked = await Promise.all(
      behind[object].map(async (other) => {
        const question = ask(other, { field: object, is: 'anyOf', value: [id] });
        const rows = await this.gate.few<{ id: number }>(actor, question, ['id']);
        return { object: other, ids: rows.map((row) => row.id) };
      }),
    );
    return [{ object, ids: [id] }, ...linked];
  }
}

/** Newest first; what was done or said at an instant stands above what it changed. */
const newestFirst =
  (places: ReadonlyMap<string, number>) =>
  (a: TimelineEntry, b: TimelineEntry): number => {
    if (a.at !== b.at) return a.at < b.at ? 1 : -1;
    return (places.get(a.kind) ?? 0) - (places.get(b.kind) ?? 0) || b.id - a.id;
  };

/** Cuts a page so that entries of one instant stay together: the next page begins before the last one's instant. */
function wholeInstants(all: TimelineEntry[]): TimelineEntry[] {
  if (all.length <= PAGE) return all;
  const edge = all[PAGE - 1].at;
  const end = all.findIndex(({ at }) => at < edge);
  return end < 0 ? all : all.slice(0, end);
}

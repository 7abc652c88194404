import Joi from 'joi';
import { Controller, Get, Param, Query } from '@nestjs/common';
import {
  ask,
  builtIn,
  fieldOf,
  isSubject,
  objectOfPath,
  type Actor,
  type Condition,
  type LoggedChange,
  type ObjectKey,
  type SubjectKey,
  type TimelineEntry,
  type TimelinePage,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Forms } from '../../features/forms/forms';
import { checked } from '../../platform/http/checked';
import { Problem } from '../../platform/http/problem';
import { recordId } from '../../platform/http/record-id';
import { Gate } from '../questions/gate';
import { Asking } from '../../platform/sessions/asking';
import { ForPrograms } from '../../platform/sessions/scopes';

const PAGE = 50;
const FIRST_INSTANT_AFTER_ALL = '9999';

/** Fields whose every change would only repeat what the timeline says already. */
const SILENT = ['questionsMet', 'stageSince', 'convertedAt', 'closedOn', 'doneAt', 'doneBy', 'result'];

type TimelineKind = TimelineEntry['kind'];
type SaidKind = 'activity' | 'note' | 'mail' | 'file';

/** When each kind of what was said or done took place, and the fields that say it. */
const said = {
  activity: { instant: 'doneAt', says: ['name', 'result'] },
  note: { instant: 'createdAt', says: ['body'] },
  mail: { instant: 'sentAt', says: ['subject', 'body', 'senderName'] },
  file: { instant: 'createdAt', says: ['name'] },
} as const;

/** Where the page begins, which kinds it holds, and a text that entries say. */
const asked = Joi.object<{ before: string; kinds?: string; text?: string }>({
  before: Joi.string().max(40).default(FIRST_INSTANT_AFTER_ALL),
  kinds: Joi.string()
    .pattern(/^(activity|note|mail|file|change|submission)(,(activity|note|mail|file|change|submission))*$/)
    .label('Kinds'),
  text: Joi.string().max(200).allow('').label('Text'),
});

type Subjects = { object: SubjectKey; ids: number[] }[];

/** The story of a record, newest first: an account's includes its contacts' and deals', a converted lead's goes along. */
@ForPrograms()
@Controller('api/v1/:objects/:id/timeline')
export class TimelineController {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly forms: Forms,
  ) {}

  @Get()
  async page(
    @Asking() actor: Actor,
    @Param('objects') path: string,
    @Param('id') id: string,
    @Query() query: unknown,
  ): Promise<TimelinePage> {
    const object = objectOfPath(path);
    if (!isSubject(object)) throw new Problem('not-found', 'There is nothing at this address.');
    const record = await this.gate.find(actor, object, recordId(id));
    const { before: until, kinds, text } = checked(asked, query);
    const wants = (kind: TimelineKind) => kinds === undefined || kinds.split(',').includes(kind);
    const subjects = await this.subjects(actor, object, record.id);
    const parts = await Promise.all([
      ...(['activity', 'note', 'mail', 'file'] as const)
        .filter(wants)
        .map((kind) => this.records(actor, kind, { object, id: record.id }, until, text)),
      // What was sent in and what changed is looked through by kind only.
      ...(wants('submission') && !text ? [this.submissions(subjects, until)] : []),
      ...(wants('change') && !text ? [this.changes(subjects, object, record.id, until)] : []),
    ]);
    const all = parts.flat().sort(newestFirst);
    const entries = wholeInstants(all);
    return {
      rows: entries,
      next: entries.length < all.length || all.length >= PAGE ? (entries.at(-1)?.at ?? null) : null,
    };
  }

  /** What was sent through forms by those whose story this is. */
  private async submissions(subjects: Subjects, before: string): Promise<TimelineEntry[]> {
    const leads = subjects.find(({ object }) => object === 'lead')?.ids ?? [];
    const found = await this.forms.sentBy(leads, before, PAGE);
    return found.map(({ form, submission }) => ({
      kind: 'submission',
      at: submission.at,
      id: submission.id,
      form,
      submission,
    }));
  }

  /** Done activities, notes or mails hanging on the record, those that say a text when one is looked for. */
  private async records(
    actor: Actor,
    kind: SaidKind,
    subject: { object: SubjectKey; id: number },
    before: string,
    text: string | undefined,
  ): Promise<TimelineEntry[]> {
    const { instant, says } = said[kind];
    const saysIt: Condition | undefined = text
      ? { join: 'any', of: says.map((field) => ({ field, is: 'contains', value: text })) }
      : undefined;
    const question = ask(
      kind,
      { field: subject.object, is: 'anyOf', value: [subject.id] },
      { field: instant, is: 'isNotEmpty' },
      saysIt,
    );
    const rows = await this.gate.recordsBefore(actor, question, instant, before, PAGE);
    return rows.map((record) => ({ kind, at: String(record[instant]), id: record.id, record }));
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
        const { rows } = await this.gate.records(actor, question, { offset: 0, limit: 500 });
        return { object: other, ids: rows.map((row) => row.id) };
      }),
    );
    return [{ object, ids: [id] }, ...linked];
  }

  private async changes(
    subjects: Subjects,
    own: ObjectKey,
    ownId: number,
    before: string,
  ): Promise<TimelineEntry[]> {
    const query = this.database.reading
      .createQueryBuilder()
      .select('c.*')
      .from('change', 'c')
      .where('c.at < :before', { before })
      .andWhere('(c.field IS NULL OR c.field NOT IN (:...silent))', { silent: SILENT })
      .orderBy('c.at', 'DESC')
      .addOrderBy('c.id', 'DESC')
      .limit(PAGE);
    const parts: string[] = [];
    for (const [index, { object, ids }] of subjects.entries()) {
      if (ids.length === 0) continue;
      parts.push(`(c.object = :object${index} AND c.record IN (:...ids${index}))`);
      query.setParameter(`object${index}`, object).setParameter(`ids${index}`, ids);
    }
    query.andWhere(`(${parts.join(' OR ')})`);
    const rows = await query.getRawMany<LoggedChange>();
    const known = await this.known(subjects);
    return rows.map((change) => {
      const changed = known.get(`${change.object} ${change.record}`);
      const isOwn = change.object === own && change.record === ownId;
      return {
        kind: 'change',
        at: change.at,
        id: change.id,
        change,
        on: isOwn ? null : (changed?.name ?? ''),
        currency: changed?.currency ?? null,
      };
    });
  }

  /** Name and currency of each record of the story. */
  private async known(subjects: Subjects): Promise<Map<string, { name: string; currency: string | null }>> {
    const known = new Map<string, { name: string; currency: string | null }>();
    for (const { object, ids } of subjects) {
      if (ids.length === 0) continue;
      const hasCurrency = fieldOf(builtIn, object, 'currency') !== undefined;
      const rows = await this.database.reading
        .createQueryBuilder()
        .select('r.id', 'id')
        .addSelect('r.name', 'name')
        .addSelect(hasCurrency ? 'r.currency' : 'NULL', 'currency')
        .from(object, 'r')
        .where('r.id IN (:...ids)', { ids })
        .getRawMany<{ id: number; name: string; currency: string | null }>();
      for (const { id, name, currency } of rows) known.set(`${object} ${id}`, { name, currency });
    }
    return known;
  }
}

const KIND_ORDER = { submission: 0, mail: 1, activity: 2, file: 3, note: 4, change: 5 } as const;

/** Newest first; what was done or said at an instant stands above what it changed. */
function newestFirst(a: TimelineEntry, b: TimelineEntry): number {
  if (a.at !== b.at) return a.at < b.at ? 1 : -1;
  return KIND_ORDER[a.kind] - KIND_ORDER[b.kind] || b.id - a.id;
}

/** Cuts a page so that entries of one instant stay together: the next page begins before the last one's instant. */
function wholeInstants(all: TimelineEntry[]): TimelineEntry[] {
  if (all.length <= PAGE) return all;
  const edge = all[PAGE - 1].at;
  const end = all.findIndex(({ at }) => at < edge);
  return end < 0 ? all : all.slice(0, end);
}

import { Inject } from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import {
  ask,
  type Actor,
  type AnyRecord,
  type Condition,
  type SubjectKey,
  type TimelineEntry,
} from '@zawn/core';
import { Gate } from '../questions/gate';

/** Marks a service that adds entries of its kind to timelines: a `TimelineSource`. */
export const InTimeline = DiscoveryService.createDecorator();

/** The records whose story is told, the one looked at first. */
export type Subjects = readonly { object: SubjectKey; ids: readonly number[] }[];

/** A page of a timeline, as it is asked for. */
export interface TimelineRequest {
  actor: Actor;
  subjects: Subjects;
  /** Only what was before this instant. */
  before: string;
  /** Only what says this. */
  text?: string;
  limit: number;
}

export interface TimelineSource {
  readonly kind: TimelineEntry['kind'];
  /** Of what was at the same instant, entries with the smaller number stand above. */
  readonly place: number;
  /** The latest entries before an instant, newest first; none where it is looked for a text that its kind cannot say. */
  entries(request: TimelineRequest): Promise<TimelineEntry[]>;
}

/** Tells of records that hang on the one looked at, at an instant of theirs. */
export abstract class RecordTimeline implements TimelineSource {
  abstract readonly kind: Extract<TimelineEntry, { record: AnyRecord }>['kind'];
  abstract readonly place: number;
  /** The field that says when it was. */
  protected abstract readonly instant: string;
  /** The fields in which a text is looked for. */
  protected abstract readonly says: readonly string[];

  /** What else holds of those that are told. */
  protected readonly where?: Condition;

  // As a property, so that kinds need no constructor of their own.
  @Inject(Gate) private readonly gate: Gate;

  entries(request: TimelineRequest): Promise<TimelineEntry[]> {
    const [{ object, ids }] = request.subjects;
    return this.of(request, { field: object, is: 'anyOf', value: [...ids] });
  }

  /** The latest of those of which a condition holds. */
  protected async of(
    { actor, before, text, limit }: TimelineRequest,
    which: Condition,
  ): Promise<TimelineEntry[]> {
    const { kind, instant } = this;
    const saysIt: Condition | undefined = text
      ? { join: 'any', of: this.says.map((field) => ({ field, is: 'contains', value: text })) }
      : undefined;
    const question = ask(kind, which, { field: instant, is: 'isNotEmpty' }, this.where, saysIt);
    const rows = await this.gate.recordsBefore(actor, question, instant, before, limit);
    return rows.map((record) => ({ kind, at: String(record[instant]), id: record.id, record }));
  }
}

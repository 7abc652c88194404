import { Injectable } from '@nestjs/common';
import { type AnyRecord, type FieldValue, type Written } from '@zawn/core';
import { Assignment } from '../assignment/assignment';
import { Door, type Writing } from '../records/door';

/** Takes new leads in: what they leave out is filled in, and who gets them is decided, in one unit with the lead. */
@Injectable()
export class Capture {
  constructor(
    private readonly door: Door,
    private readonly assignment: Assignment,
  ) {}

  /**
   * Creates a lead. Without a status it is untouched; without an owner it is, for those who give leads to everyone,
   * whose turn it is by the rules, and otherwise the writer’s own.
   * @throws Problem `invalid-input` with every fault; then nobody’s turn is used up.
   */
  lead(writing: Writing, body: unknown): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      if (!isValues(body) || body.owner !== undefined) return unit.create('lead', withStatus(body));
      const { actor } = writing;
      if (actor.role !== 'operations')
        return unit.create('lead', withStatus({ ...body, owner: actor.personId }));
      const giving = await this.assignment.giving(actor, unit);
      const lead = await unit.create('lead', withStatus({ ...body, owner: giving.next(body).owner }));
      await giving.keep(unit.manager);
      return lead;
    });
  }
}

const isValues = (body: unknown): body is Record<string, FieldValue> =>
  typeof body === 'object' && body !== null && !Array.isArray(body);

const withStatus = (body: unknown): unknown =>
  isValues(body) && body.status === undefined ? { ...body, status: 'untouched' } : body;

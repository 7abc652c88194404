import { Injectable } from '@nestjs/common';
import { policyOf, type AnyRecord, type FieldValue, type Written } from '@zawn/core';
import { Assignment } from '../assignment/assignment';
import { AlikeFinder } from '../matching/alike';
import { Organisation } from '../../kernel/organisation/organisation';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

/** Who gets what comes in one way: one person, or whoever the assignment rules say. */
export interface Recipient {
  to: 'person' | 'rules';
  person: number | null;
}

/** Takes new leads in: what they leave out is filled in, and who gets them is decided, in one unit with the lead. */
@Injectable()
export class Capture {
  constructor(
    private readonly door: Door,
    private readonly assignment: Assignment,
    private readonly alike: AlikeFinder,
    private readonly organisation: Organisation,
  ) {}

  /**
   * Creates a lead. Without a status it is untouched; without an owner it is, for those who give leads to everyone,
   * whose turn it is by the rules, and otherwise the writer’s own.
   * @throws Problem `invalid-input` with every fault; then nobody’s turn is used up.
   */
  lead(writing: WriteContext, body: unknown): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const { actor } = writing;
      if (!isValues(body) || body.owner !== undefined) return unit.create('lead', withStatus(body));
      if (!policyOf(actor).may('leaveOwnerOut'))
        return unit.create('lead', withStatus({ ...body, owner: actor.personId }));
      return this.arrive(unit, body, { to: 'rules', person: null });
    });
  }

  /**
   * A lead that came from outside, given to whom it goes to, who hears of it with whom it may be on file already.
   * @throws Problem `invalid-input` with every fault; then nobody’s turn is used up.
   */
  async arrive(unit: Unit, values: Values, recipient: Recipient): Promise<AnyRecord> {
    const person = recipient.to === 'person' ? await this.here(recipient.person) : undefined;
    if (person !== undefined)
      return this.tellAlike(unit, await unit.create('lead', withStatus({ ...values, owner: person })));
    const giving = await this.assignment.giving(unit.actor, unit);
    const lead = await unit.create('lead', withStatus({ ...values, owner: giving.next(values).owner }));
    await giving.keep(unit.manager);
    return this.tellAlike(unit, lead);
  }

  /** A person who still works here; undefined when not, so that the rules decide instead. */
  private async here(id: number | null): Promise<number | undefined> {
    const people = await this.organisation.people();
    return people.find((each) => each.id === id && each.active)?.id;
  }

  /** The owner hears who it may be, out of what they may see themselves. */
  private async tellAlike(unit: Unit, lead: AnyRecord): Promise<AnyRecord> {
    const owner = await this.organisation.actor(Number(lead.owner));
    const [likeliest] = owner ? await this.alike.to(owner, lead, lead.id) : [];
    if (likeliest) unit.tellMore(lead, likeliest);
    return lead;
  }
}

const isValues = (body: unknown): body is Record<string, FieldValue> =>
  typeof body === 'object' && body !== null && !Array.isArray(body);

const withStatus = (body: unknown): unknown =>
  isValues(body) && body.status === undefined ? { ...body, status: 'untouched' } : body;

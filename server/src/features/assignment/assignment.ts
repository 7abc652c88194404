import { Injectable } from '@nestjs/common';
import { IsNull, type EntityManager } from 'typeorm';
import {
  ask,
  Assigner,
  holds,
  isAwayOn,
  leftOutInWords,
  runnable,
  type Actor,
  type AnyRecord,
  type Assigned,
  type AssignmentRule,
  type AssignmentTrial,
  type Condition,
  type FieldValue,
  type QuestionContext,
  type Rate,
  type RecordOf,
  type Turn,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type TurnRow } from '../../platform/database/rows';
import { readAbsences } from '../../kernel/organisation/absences';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';

type RuleRow = RecordOf<'assignmentRule'> & { deletedAt: string | null };

/** Gives leads to people by the organisation’s rules. */
export interface Giving {
  /** Who gets a lead with these values. */
  next(values: Values): Assigned;
  /** Keeps whose turn it was, in the transaction that the leads are written in. */
  keep(manager: EntityManager): Promise<void>;
}

/** Who gets a new lead that nobody was named for. */
@Injectable()
export class Assignment {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly clock: Clock,
  ) {}

  /**
   * The rules as they stand, ready to give leads away one after the other.
   * @param unit reads inside its transaction, so that two ways in do not give the same turn twice.
   */
  async giving(actor: Actor, unit?: Unit): Promise<Giving> {
    const manager = unit?.manager ?? this.database.reading.manager;
    const { assigner, meets } = await this.assigner(actor, manager);
    const at = this.clock.now();
    return {
      next: (values) => assigner.next(meets(values), at),
      keep: async (within) => {
        for (const [rule, turns] of assigner.changedTurns)
          await within.upsert(
            'turn',
            turns.map((turn) => ({ ...turn, rule })),
            ['rule', 'person'],
          );
      },
    };
  }

  /** Who would get this lead, and which rules were looked at on the way. Nobody’s turn is used up. */
  async try(actor: Actor, values: Values): Promise<AssignmentTrial> {
    const { assigner, rules, asleep, meets } = await this.assigner(actor, this.database.reading.manager);
    const { owner, rule } = assigner.next(meets(values), this.clock.now());
    return {
      owner,
      rule: rule?.id ?? null,
      tried: rules.map(({ id, name, where }) => ({
        id,
        name,
        isMet: where === undefined || meets(values)(where),
      })),
      asleep,
    };
  }

  private async assigner(actor: Actor, manager: EntityManager) {
    const rows = await manager.find<RuleRow>('assignmentRule', {
      where: { deletedAt: IsNull(), active: true },
      order: { position: 'ASC', id: 'ASC' },
    });
    const turns = new Map<number, Turn[]>();
    for (const { rule, ...turn } of await manager.find<TurnRow>('turn'))
      turns.set(rule, [...(turns.get(rule) ?? []), turn]);
    // A rule asks about every field there is, also about those that whoever brings the lead does not see.
    const catalogue = await this.organisation.catalogue();
    const context = { ...(await this.gate.context(actor)), catalogue };
    const rates = await this.organisation.rates();
    const all = rows.map(ruleOf);
    // A condition that lost a part would be met by more leads than it is about: such a rule is passed over.
    const lost = (where: Condition) => runnable(ask('lead', where), context).leftOut;
    const asleep = all.flatMap(({ id, where }) =>
      where && lost(where).length > 0 ? [{ id, why: lost(where).map(leftOutInWords).join('. ') }] : [],
    );
    const rules = all.filter(({ id }) => !asleep.some((rule) => rule.id === id));
    const away = await this.away(manager, context.today);
    const people = await this.organisation.people();
    const active = new Set(people.filter((person) => person.active).map(({ id }) => id));
    const isHere = (person: number) => active.has(person) && !away.has(person);
    const fallback = await this.defaultOwner();
    const meets = (values: Values) => (where: Condition) => leadMeets(where, values, context, rates);
    return { assigner: new Assigner(rules, turns, isHere, fallback), rules, asleep, meets };
  }

  /** Who gets what no rule gives to anyone: as set, otherwise the first who sets up the rules. */
  async defaultOwner(): Promise<number> {
    const [{ defaultOwner }, people, [whoSetsUp]] = await Promise.all([
      this.organisation.settings(),
      this.organisation.people(),
      this.organisation.whoMay('setUpAssignment'),
    ]);
    const isThere = people.some(({ id, active }) => id === defaultOwner && active);
    return isThere && defaultOwner !== null ? defaultOwner : (whoSetsUp ?? people[0]).id;
  }

  /** Those who said they are away on a day. */
  private async away(manager: EntityManager, today: string): Promise<Set<number>> {
    const absences = await readAbsences(manager);
    return new Set(absences.filter((each) => isAwayOn(each, today)).map(({ person }) => person));
  }
}

function ruleOf({ id, name, condition, to, person, people }: RuleRow): AssignmentRule {
  return {
    id,
    name,
    ...(condition ? { where: JSON.parse(condition) as Condition } : {}),
    gives:
      to === 'person'
        ? { to, person: Number(person) }
        : { to: 'turns', people: JSON.parse(people ?? '[]') as number[] },
  };
}

/** Whether a lead that is not there yet meets a condition: what lies behind its links is empty. */
function leadMeets(
  where: Condition,
  values: Readonly<Record<string, FieldValue>>,
  context: QuestionContext,
  rates: readonly Rate[],
): boolean {
  const lead = { id: 0, version: 1, createdAt: '', updatedAt: '', createdBy: null, ...values } as AnyRecord;
  return holds(where, 'lead', lead, context, { find: () => undefined, linking: () => [], rates });
}

import { IsNull } from 'typeorm';
import {
  hoursToTouch,
  pointsOf,
  runnable,
  scoreOf,
  systemActor,
  type Condition,
  type Score,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type Gate } from '../../kernel/questions/gate';
import {
  writeDerived,
  writeDerivedToMany,
  type Derivation,
  type Deriving,
} from '../../kernel/records/derivation';
import { earliest } from '../people/touches';

interface Rule {
  id: number;
  name: string;
  points: number;
  condition: string;
}

/** What is read of a lead to see whether its first touch differs. */
interface Kept {
  id: number;
  createdAt: string;
  firstTouchAt: string | null;
}

const questionOf = (condition: Condition) => ({
  version: 1 as const,
  object: 'lead' as const,
  where: condition,
});

/** The score rules in use, those set aside that ask about a field that is gone: they count for nobody. */
export async function activeRules(
  gate: Gate,
  manager: Deriving['manager'],
): Promise<{ rules: Rule[]; asleep: number[] }> {
  const all = await manager.find<Rule & { active: boolean; deletedAt: string | null }>('scoreRule', {
    where: { active: true, deletedAt: IsNull() },
    order: { id: 'ASC' },
  });
  const context = await gate.context(systemActor);
  const isAsleep = ({ condition }: Rule) =>
    runnable(questionOf(JSON.parse(condition) as Condition), context).leftOut.length > 0;
  return { rules: all.filter((rule) => !isAsleep(rule)), asleep: all.filter(isAsleep).map(({ id }) => id) };
}

/** Which of these leads meet each rule. */
async function meeting(
  { gate, manager }: Pick<Deriving, 'gate' | 'manager'>,
  rules: readonly Rule[],
  ids: readonly number[],
): Promise<Map<number, Set<number>>> {
  const conditions = rules.map(({ condition }) => JSON.parse(condition) as Condition);
  const found = await gate.meeting(systemActor, 'lead', conditions, ids, { manager });
  return new Map(rules.map(({ id }, index) => [id, found[index]]));
}

/** A lead's score with the rules that gave points. */
export async function scoreOfLead(
  at: Pick<Deriving, 'gate' | 'manager'>,
  lead: number,
): Promise<Score & { asleep: number[] }> {
  const { rules, asleep } = await activeRules(at.gate, at.manager);
  const met = await meeting(at, rules, [lead]);
  return { ...scoreOf(rules, ({ id }) => met.get(id)?.has(lead) ?? false), asleep };
}

/** What follows for a lead from its answers, from what was done with it, and from the score rules. */
export const leadDerivation: Derivation = {
  object: 'lead',
  restsOn: ['scoreRule', 'choiceList'],

  async derive(at, ids) {
    const { manager } = at;
    await deriveTouch(at, ids);
    // A rule may ask about what was just derived.
    const { rules } = await activeRules(at.gate, manager);
    const met = await meeting(at, rules, ids);
    // Many leads have few different scores.
    const byScore = new Map<number, number[]>();
    for (const lead of ids) {
      const score = pointsOf(rules.filter(({ id }) => met.get(id)?.has(lead)));
      const some = byScore.get(score);
      if (some) some.push(lead);
      else byScore.set(score, [lead]);
    }
    for (const [score, some] of byScore) writeDerivedToMany(at, 'lead', some, 'score', score);
  },
};

async function deriveTouch(at: Deriving, ids: readonly number[]): Promise<void> {
  const { manager } = at;
  const first = await earliest(at, 'lead', ids);
  const columns = ['id', 'createdAt', 'firstTouchAt'] as const;
  // Most of a file’s leads were never touched: they are not read.
  const known = dialect.rows<Kept>(manager, 'lead', columns, ids, 'firstTouchAt');
  const touched = dialect.rows<Kept>(manager, 'lead', columns, [...first.keys()]);
  for (const lead of [...known, ...touched]) {
    const firstTouchAt = first.get(lead.id) ?? null;
    if (lead.firstTouchAt === firstTouchAt) continue;
    const hours = firstTouchAt === null ? null : hoursToTouch(lead.createdAt, firstTouchAt);
    writeDerived({ manager }, 'lead', lead.id, { firstTouchAt, hoursToTouch: hours });
  }
}

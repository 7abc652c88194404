import { Injectable } from '@nestjs/common';
import {
  objectType,
  openWorkOf,
  type Actor,
  type Colleague,
  type Condition,
  type HandOver,
  type HandOverPreview,
  type Job,
  type ObjectKey,
  type Question,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { earlierAnswer } from '../../platform/database/once';
import { notFound, Problem } from '../../platform/http/problem';
import { Jobs, type JobKind, type Slice } from '../../kernel/jobs/jobs';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Questions } from '../../kernel/questions/questions';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Unit } from '../../kernel/records/unit';

/** How long an answer waits for the work to be done before it tells of the job instead. */
const PATIENCE_MS = 2500;
/** Records of one kind that somebody can leave behind. */
const MOST = 200_000;

/** A record that goes to somebody else. */
interface Move {
  object: ObjectKey;
  id: number;
  to: number;
}

interface Plan {
  moves: Move[];
  preview: HandOverPreview;
}

/** Somebody leaves: they are out at once, and their open work goes to others, as one unit that can be undone. */
@Injectable()
export class Leaving implements JobKind<Move[]> {
  readonly kind = 'leaving';

  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly jobs: Jobs,
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly questions: Questions,
  ) {
    jobs.register(this);
  }

  /** What a hand-over would come to. Nothing is written. */
  async preview(actor: Actor, person: number, handOver: readonly HandOver[]): Promise<HandOverPreview> {
    const colleague = await this.colleague(person);
    if (!colleague.active) throw hasLeft(colleague);
    return (await this.plan(actor, person, handOver)).preview;
  }

  /**
   * Lets somebody leave. Waits a little; what takes longer goes on by itself.
   * @throws Problem `conflict` when they have left already or are the last who can set things up.
   */
  async run(writing: WriteContext, person: number, handOver: readonly HandOver[]): Promise<Job> {
    const { actor } = writing;
    const earlier = await earlierAnswer<Written<number>>(this.database.reading.manager, writing.asked);
    if (earlier) return this.jobs.settled(actor, earlier.answer.value, PATIENCE_MS);
    const colleague = await this.colleague(person);
    const { moves } = await this.plan(actor, person, handOver);
    const { value: job } = await this.door.write(writing, async (unit) => {
      if ((await unit.find('person', person)).active !== true) throw hasLeft(colleague);
      await unit.change('person', person, { active: false });
      unit.label = `${colleague.name} left, and ${moves.length} of their records went to others`;
      return this.jobs.store<Move[]>(unit.manager, actor, {
        kind: this.kind,
        label: unit.label,
        unit: unit.id,
        request: moves,
        total: moves.length,
      });
    });
    await this.jobs.begin(actor, job);
    return this.jobs.settled(actor, job, PATIENCE_MS);
  }

  async work(unit: Unit, moves: Move[], from: number, count: number): Promise<Slice> {
    const slice: Slice = { changed: 0, refusals: [] };
    for (const { object, id, to } of moves.slice(from, from + count)) {
      const record = (await unit.visible(object, [id])).get(id);
      const refusal = record
        ? await unit.attempt(async () => {
            await unit.change(object, id, { owner: to });
          })
        : 'It is not there any more';
      if (refusal === undefined) slice.changed += 1;
      else
        slice.refusals.push({
          id,
          name: String(record?.[objectType(object).nameField] ?? id),
          reason: refusal,
        });
    }
    return slice;
  }

  private async colleague(id: number): Promise<Colleague> {
    const colleague = (await this.organisation.people()).find((each) => each.id === id);
    if (!colleague) throw notFound('This person');
    return colleague;
  }

  /** Who gets what: the lines in their order, and within one in turns. */
  private async plan(actor: Actor, person: number, handOver: readonly HandOver[]): Promise<Plan> {
    await this.mustTake(person, handOver);
    const plan: Plan = { moves: [], preview: { kinds: [], lines: handOver.map(() => 0) } };
    for (const question of openWorkOf(person)) {
      const { object } = question;
      const all = await this.gate.ids(actor, question, { offset: 0, limit: MOST });
      const left = new Set(all);
      const given = new Map<number, number>();
      for (const [at, { object: of, to, where }] of handOver.entries()) {
        if (of !== object) continue;
        const some = where === undefined ? all : await this.idsWhere(actor, question, where);
        const mine = some.filter((id) => left.delete(id));
        plan.preview.lines[at] = mine.length;
        for (const [index, id] of mine.entries()) {
          const receiver = to[index % to.length];
          plan.moves.push({ object, id, to: receiver });
          given.set(receiver, (given.get(receiver) ?? 0) + 1);
        }
      }
      plan.preview.kinds.push({
        object,
        count: all.length,
        given: [...given].map(([receiver, count]) => ({ person: receiver, count })),
        left: left.size,
      });
    }
    return plan;
  }

  private async idsWhere(actor: Actor, question: Question, where: Condition): Promise<number[]> {
    const narrowed = { ...question, where: { join: 'all', of: [question.where, where] } };
    const checked = await this.questions.checkedFor(question.object, narrowed);
    // A part that cannot be asked would give away more than was meant.
    await this.gate.mustBeWhole(actor, checked);
    return this.gate.ids(actor, checked, { offset: 0, limit: MOST });
  }

  private async mustTake(person: number, handOver: readonly HandOver[]): Promise<void> {
    const people = await this.organisation.people();
    for (const id of handOver.flatMap(({ to }) => to)) {
      const receiver = people.find((each) => each.id === id);
      if (!receiver) throw notFound('One of the colleagues');
      if (!receiver.active || id === person)
        throw new Problem('conflict', `${receiver.name} cannot take work over. Nothing was written.`);
    }
  }
}

const hasLeft = ({ name }: Colleague) =>
  new Problem('conflict', `${name} has left already. Nothing was written.`);

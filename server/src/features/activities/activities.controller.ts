import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { ask, systemActor, type Actor, type AnyRecord, type GivenTogether, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
import { Clock } from '../../platform/clock/clock';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Door, type WriteContext } from '../../kernel/records/door';
import { Gate } from '../../kernel/questions/gate';
import { CurrentActor, Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { ForPrograms } from '../../platform/sessions/scopes';
import { ending, finish, sameSubjects, type Ending, type NextStep } from './finish';
import { giveToEach, MOST_PEOPLE, type DoneWhen } from './together';

const doing = Joi.object<Ending>(ending);

/** An activity that was not planned: the catalogue checks its fields, this its ending. */
const logging = Joi.object<Ending & { activity: NextStep }>({
  ...ending,
  activity: Joi.object().unknown().required(),
});

/** One task for several people: the catalogue checks its fields. */
const giving = Joi.object<{ activity: NextStep; people: number[]; doneWhen: DoneWhen }>({
  activity: Joi.object().unknown().required(),
  people: Joi.array()
    .items(Joi.number().integer().positive())
    .min(1)
    .max(MOST_PEOPLE)
    .unique()
    .required()
    .label('People')
    .messages({
      'array.min': 'Say who is to do it',
      'array.max': `A task is given to at most ${MOST_PEOPLE} people`,
      'array.unique': 'Somebody is named twice',
    }),
  doneWhen: Joi.string().valid('all', 'one').default('all').label('Done when'),
});

const dropping = Joi.object<{ reason: string }>({
  reason: Joi.string().trim().max(500).required().label('Why'),
});

@ForPrograms()
@Controller('api/v1/activities')
export class ActivitiesController {
  constructor(
    private readonly door: Door,
    private readonly gate: Gate,
    private readonly clock: Clock,
    private readonly organisation: Organisation,
  ) {}

  /** Marks a planned activity as done now, with what came of it and, when given, what comes next. */
  @Post(':id/done')
  @HttpCode(200)
  done(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(doing) how: CheckedAs<typeof doing>,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const activity = await unit.find('activity', id);
      if (activity.doneAt) throw new Problem('conflict', 'This is done already.');
      return finish(unit, activity, how, version);
    });
  }

  /** Gives one task to several people: an activity each, done when all of them have done it or when one has. */
  @Post('together')
  planTogether(
    @ByHand() writing: WriteContext,
    @CheckedBody(giving) { activity, people, doneWhen }: CheckedAs<typeof giving>,
  ): Promise<Written<AnyRecord[]>> {
    return this.door.write(writing, (unit) =>
      giveToEach(unit, people, doneWhen, async (owner, common) => {
        const planned = await unit.create('activity', { ...activity, owner });
        return Object.keys(common).length === 0
          ? planned
          : unit.change('activity', planned.id, common, { setter: 'feature', before: planned });
      }),
    );
  }

  /** Who was given a task together with this one, and who of them has done it. */
  @Get(':id/together')
  async together(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<GivenTogether> {
    const { together } = await this.gate.find(actor, 'activity', id);
    if (typeof together !== 'string') return { people: [] };
    const { rows } = await this.gate.records(
      systemActor,
      ask('activity', { field: 'together', is: 'is', value: together }),
      { offset: 0, limit: MOST_PEOPLE },
    );
    return {
      people: rows.map(({ owner, doneAt }) => ({ person: Number(owner), isDone: doneAt !== null })),
    };
  }

  /** Notes that somebody listened to the recording of a call: whoever sees it may. */
  @Post(':id/heard')
  @HttpCode(200)
  heard(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const activity = await unit.find('activity', id);
      if (activity.recording === null) throw new Problem('conflict', 'There is no recording of this.');
      const { personId } = unit.actor;
      // One’s own call is not heard by one’s listening to it.
      if (personId === activity.owner || activity.heardBy === personId) return activity;
      unit.label = `Heard: “${String(activity.name)}”`;
      return unit.alter('activity', activity, { heardAt: unit.at, heardBy: personId });
    });
  }

  /** Lets go of something planned, and notes on its records why. */
  @Post(':id/drop')
  @HttpCode(200)
  drop(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(dropping) { reason }: CheckedAs<typeof dropping>,
  ): Promise<Written<null>> {
    return this.door.write(writing, async (unit) => {
      const activity = await unit.find('activity', id);
      if (activity.doneAt) throw new Problem('conflict', 'This is done already.');
      const name = String(activity.name);
      const on = sameSubjects(activity);
      if (Object.values(on).some((subject) => subject !== null))
        await unit.create('note', { ...on, body: `Dropped “${name}”: ${reason}` });
      await unit.remove('activity', id, version);
      unit.label = `Dropped: “${name}”`;
      return null;
    });
  }

  /** Writes down something that was done without having been planned. */
  @Post('logged')
  async log(
    @ByHand() writing: WriteContext,
    @CheckedBody(logging) { activity, ...how }: CheckedAs<typeof logging>,
  ): Promise<Written<AnyRecord>> {
    const { timeZone } = await this.organisation.settings();
    const today = this.clock.today(timeZone);
    return this.door.write(writing, async (unit) => {
      const planned = await unit.create('activity', {
        owner: unit.actor.personId,
        dueOn: today,
        ...activity,
      });
      unit.label = '';
      return finish(unit, planned, how, planned.version);
    });
  }
}

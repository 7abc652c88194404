import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type AnyRecord, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
import { Clock } from '../../platform/clock/clock';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Door, type WriteContext } from '../../kernel/records/door';
import { Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { ForPrograms } from '../../platform/sessions/scopes';
import { ending, finish, sameSubjects, type Ending, type NextStep } from './finish';

const doing = Joi.object<Ending>(ending);

/** An activity that was not planned: the catalogue checks its fields, this its ending. */
const logging = Joi.object<Ending & { activity: NextStep }>({
  ...ending,
  activity: Joi.object().unknown().required(),
});

const dropping = Joi.object<{ reason: string }>({
  reason: Joi.string().trim().max(500).required().label('Why'),
});

@ForPrograms()
@Controller('api/v1/activities')
export class ActivitiesController {
  constructor(
    private readonly door: Door,
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

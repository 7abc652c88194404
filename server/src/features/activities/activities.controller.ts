import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { subjectKeys, type AnyRecord, type FieldValue, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
import { Clock } from '../../platform/clock/clock';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { ForPrograms } from '../../platform/sessions/scopes';

/** What is planned next, in the same unit as what was done. */
type NextStep = Record<string, FieldValue>;

interface Ending {
  result?: string | null;
  outcome?: string | null;
  next?: NextStep | null;
}

const ending = {
  result: Joi.string().max(5000).allow('', null).label('Note'),
  outcome: Joi.string().max(60).allow(null).label('Outcome'),
  next: Joi.object().unknown().allow(null).label('Next step'),
};

const doing = Joi.object<Ending>(ending);

/** An activity that was not planned: the catalogue checks its fields, this its ending. */
const logging = Joi.object<Ending & { activity: NextStep }>({
  ...ending,
  activity: Joi.object().unknown().required(),
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

async function finish(unit: Unit, activity: AnyRecord, how: Ending, version: number): Promise<AnyRecord> {
  const { result = null, outcome = null, next = null } = how;
  unit.label = `Done: “${String(activity.name)}”`;
  const done = { doneAt: unit.at, doneBy: unit.actor.personId, result, outcome };
  const finished = await unit.change('activity', activity.id, done, { version, setter: 'feature' });
  if (next) {
    const subjects = sameSubjects(activity);
    const follows = Object.keys(subjects).filter((subject) => next[subject] === undefined);
    await unit.create('activity', { ...subjects, owner: unit.actor.personId, ...next }, 'hand', follows);
  }
  return finished;
}

/** The records an activity hangs on, for the one that follows it. */
function sameSubjects(activity: AnyRecord): Values {
  return Object.fromEntries(subjectKeys.map((subject) => [subject, activity[subject]]));
}

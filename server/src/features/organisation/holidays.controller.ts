import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  isDay,
  type Actor,
  type Holiday,
  type HolidaysRead,
  type EntriesWritten,
  type RecordOf,
  type Written,
} from '@zawn/core';
import { validText } from '@zawn/core/validation';
import { readHolidays } from '@zawn/core/imports';
import { IsNull } from 'typeorm';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { invalidInput } from '../../platform/http/problem';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { May } from '../../platform/sessions/may';
import { ForPrograms } from '../../platform/sessions/scopes';
import { Gate } from '../../kernel/questions/gate';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';

/** Holidays that are written at once at most. */
const MOST = 1000;
const LONGEST = 2_000_000;

const reading = Joi.object<{ text: string }>({ text: Joi.string().max(LONGEST).allow('').required() });
const entries = Joi.object<{ holidays: Holiday[] }>({
  holidays: Joi.array()
    .items(
      Joi.object({
        day: validText(isDay, 'Day is not a date (YYYY-MM-DD)').required().label('Day'),
        name: Joi.string().trim().max(100).required().label('Name'),
        team: Joi.number().integer().positive().allow(null),
      }),
    )
    .min(1)
    .max(MOST)
    .required(),
});

const nameOf = ({ day, team }: Pick<Holiday, 'day' | 'team'>) => `${day} ${team ?? ''}`;

@ForPrograms()
@May(
  'setUpMoney',
  'Your role does not let you change the calendar. Ask whoever sets up Zawn in your organisation.',
)
@Controller('api/v1/holidays')
export class HolidaysController {
  constructor(
    private readonly door: Door,
    private readonly gate: Gate,
  ) {}

  /** What public holidays stand in an iCalendar file. */
  @Post('read')
  @HttpCode(200)
  async readText(
    @CurrentActor() actor: Actor,
    @CheckedBody(reading) { text }: CheckedAs<typeof reading>,
  ): Promise<HolidaysRead> {
    return readHolidays(text, (await this.gate.context(actor)).today);
  }

  /** Writes holidays as one undoable change; on a day that is one already, the name is changed. */
  @Post('entries')
  @HttpCode(200)
  enter(
    @ByHand() writing: WriteContext,
    @CheckedBody(entries) { holidays }: CheckedAs<typeof entries>,
  ): Promise<Written<EntriesWritten>> {
    const names = holidays.map(nameOf);
    const twice = holidays.find((each, index) => names.indexOf(nameOf(each)) !== index);
    if (twice) throw invalidInput([{ field: 'holidays', message: `There are two holidays on ${twice.day}` }]);
    return this.door.write(writing, async (unit) => {
      const written: EntriesWritten = { created: 0, changed: 0, same: 0 };
      const onFile = await unit.manager.findBy<RecordOf<'holiday'>>('holiday', {
        deletedAt: IsNull(),
      } as object);
      const byName = new Map(onFile.map((each) => [nameOf(each), each]));
      for (const { day, name, team } of holidays) {
        const known = byName.get(nameOf({ day, team }));
        if (known?.name === name) written.same += 1;
        else if (known) {
          await unit.change('holiday', known.id, { name });
          written.changed += 1;
        } else {
          await unit.create('holiday', { day, name, team: team ?? null });
          written.created += 1;
        }
      }
      unit.label = `Entered ${holidays.length === 1 ? 'a holiday' : `${holidays.length} holidays`}`;
      return written;
    });
  }
}

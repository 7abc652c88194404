import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { type AnyRecord, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
import { Clock } from '../../platform/clock/clock';
import { Organisation } from '../../kernel/organisation/organisation';
import { Door, type WriteContext } from '../../kernel/records/door';
import { Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { ForPrograms } from '../../platform/sessions/scopes';

const deciding = Joi.object<{ do: 'notThisTime' | 'stop' | 'remind' }>({
  do: Joi.string().valid('notThisTime', 'stop', 'remind').required(),
});

/** What is decided about a reminder to be in touch. */
@ForPrograms()
@Controller('api/v1/contacts/:id/touch')
export class TouchController {
  constructor(
    private readonly door: Door,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
  ) {}

  /** *Not this time* starts the interval again, *stop* ends the reminders for this person, *remind* begins them again. */
  @Post()
  @HttpCode(200)
  async decide(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(deciding) { do: action }: CheckedAs<typeof deciding>,
  ): Promise<Written<AnyRecord>> {
    const { timeZone } = await this.organisation.settings();
    const today = this.clock.today(timeZone);
    return this.door.write(writing, async (unit) => {
      const contact = await unit.find('contact', id);
      const name = `“${String(contact.name)}”`;
      unit.label = {
        notThisTime: `Not this time: ${name}`,
        stop: `No more reminders for ${name}`,
        remind: `Reminders for ${name} again`,
      }[action];
      const changes =
        action === 'stop' ? { touchStopped: true } : { touchStopped: null, touchSinceOn: today };
      return unit.change('contact', contact.id, changes, { version, setter: 'feature' });
    });
  }
}

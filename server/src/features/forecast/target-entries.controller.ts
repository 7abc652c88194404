import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { IsNull } from 'typeorm';
import { isDay, type AnyRecord, type TargetEntry, type TargetsWritten, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { May } from '../../platform/sessions/may';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';

const id = Joi.number().integer().positive().allow(null).required();

const entering = Joi.object<{ entries: TargetEntry[] }>({
  entries: Joi.array()
    .items(
      Joi.object({
        owner: id,
        team: id,
        startsOn: Joi.string()
          .required()
          .custom((day: string, helpers) => (isDay(day) ? day : helpers.error('any.invalid')))
          .messages({ 'any.invalid': 'Quarter from is not a date (YYYY-MM-DD)' }),
        amount: Joi.number().integer().min(0).max(9e15).allow(null).required(),
        currency: Joi.string().length(3).required(),
      }),
    )
    .min(1)
    .max(2000)
    .required(),
});

@May('setTargets', 'Your role does not let you set targets. Ask whoever sets up Zawn in your organisation.')
@Controller('api/v1/target-entries')
export class TargetEntriesController {
  constructor(private readonly door: Door) {}

  /** Sets many targets as one change: each takes the place of the one there is, and without an amount there is none. */
  @Post()
  @HttpCode(200)
  enterTargets(
    @ByHand() writing: WriteContext,
    @CheckedBody(entering) { entries }: CheckedAs<typeof entering>,
  ): Promise<Written<TargetsWritten>> {
    return this.door.write(writing, async (unit) => {
      const done: TargetsWritten = { created: 0, changed: 0, removed: 0 };
      for (const { owner, team, startsOn, amount, currency } of entries) {
        const known = await unit.manager.findOneBy<AnyRecord>('target', {
          owner: owner ?? IsNull(),
          team: team ?? IsNull(),
          startsOn,
          deletedAt: IsNull(),
        });
        if (amount === null) {
          if (!known) continue;
          await unit.removeFound('target', known);
          done.removed += 1;
        } else if (known) {
          const after = await unit.change('target', known.id, { amount, currency });
          if (after.version !== known.version) done.changed += 1;
        } else {
          await unit.create('target', { owner, team, startsOn, amount, currency });
          done.created += 1;
        }
      }
      const { length } = entries;
      unit.label = `Set ${length === 1 ? 'a target' : `${length} targets`}`;
      return done;
    });
  }
}

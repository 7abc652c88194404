import { Controller, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { howMany, type DealMove, type DealsMoved, type Written } from '@zawn/core';
import { CheckedBody, type CheckedAs } from '../../platform/http/checked';
import { Problem } from '../../platform/http/problem';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';
import { ForPrograms } from '../../platform/sessions/scopes';

const id = Joi.number().integer().positive().max(Number.MAX_SAFE_INTEGER);

/** Deals moved at once by hand: more are changed as a selection. */
const MOST = 500;

const moving = Joi.object<{ moves: DealMove[] }>({
  moves: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        version: Joi.number().integer().positive().required(),
        stage: id.required(),
        closeOn: Joi.string().max(10).required(),
      }),
    )
    .min(1)
    .max(MOST)
    .unique('id')
    .required(),
});

/** Moving several deals at once, each to a stage and a close date of its own. */
@ForPrograms()
@Controller('api/v1/deals/moves')
export class DealMovesController {
  constructor(private readonly door: Door) {}

  /** Moves them as one change. Those that are held up or were changed since stay as they are, and are named. */
  @Post()
  @HttpCode(200)
  async move(
    @ByHand() writing: WriteContext,
    @CheckedBody(moving) { moves }: CheckedAs<typeof moving>,
  ): Promise<Written<DealsMoved>> {
    return this.door.write(writing, async (unit) => {
      const known = await unit.visible(
        'deal',
        moves.map((move) => move.id),
      );
      const refused: DealsMoved['refused'] = [];
      let moved = 0;
      for (const { id: deal, version, stage, closeOn } of moves) {
        const reason = await unit.attempt(() => unit.change('deal', deal, { stage, closeOn }, { version }));
        if (reason === undefined) moved += 1;
        else refused.push({ id: deal, name: String(known.get(deal)?.name ?? 'A deal'), reason });
      }
      if (moved === 0) throw new Problem('conflict', saidOf(refused));
      unit.label = `Moved ${howMany('deal', moved)}`;
      return { moved, refused };
    });
  }
}

/** Why none of them was moved; each reason once. */
const saidOf = (refused: DealsMoved['refused']) =>
  `${[...new Set(refused.map(({ name, reason }) => `${name}: ${reason}`))].slice(0, 5).join(' ')} Nothing was written.`;

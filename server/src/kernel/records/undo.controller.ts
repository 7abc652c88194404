import { Controller, HttpCode, Post } from '@nestjs/common';
import { type Undone, type Written } from '@zawn/core';
import { RecordId } from '../../platform/http/checked';
import { ByHand } from './by-hand';
import { type WriteContext } from './door';
import { Undo } from './undo';
import { ForPrograms } from '../../platform/sessions/scopes';

@ForPrograms()
@Controller('api/v1/units')
export class UndoController {
  constructor(private readonly undo: Undo) {}

  /** Takes back what one of the person's own units of work wrote. */
  @Post(':id/undo')
  @HttpCode(200)
  undoUnit(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<Written<Undone>> {
    return this.undo.undo(writing, id);
  }
}

import { Controller, HttpCode, Param, Post } from '@nestjs/common';
import { type Actor, type Undone, type Written } from '@zawn/core';
import { recordId } from '../http/record-id';
import { Asking } from '../sessions/asking';
import { Undo } from './undo';
import { ForPrograms } from '../sessions/scopes';

@ForPrograms()
@Controller('api/v1/units')
export class UndoController {
  constructor(private readonly undo: Undo) {}

  /** Takes back what one of the person's own units of work wrote. */
  @Post(':id/undo')
  @HttpCode(200)
  undoUnit(@Asking() actor: Actor, @Param('id') id: string): Promise<Written<Undone>> {
    return this.undo.undo(actor, recordId(id));
  }
}

import { Controller, HttpCode, Param, Post } from '@nestjs/common';
import { type Actor } from '@zawn/core';
import { recordId } from '../http/record-id';
import { Asking } from '../sessions/asking';
import { type Written } from './door';
import { Undo, type Undone } from './undo';

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

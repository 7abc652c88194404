import { Controller, HttpCode, Post } from '@nestjs/common';
import { objectType, type AnyRecord, type Written } from '@zawn/core';
import { RecordId } from '../../platform/http/checked';
import { Problem } from '../../platform/http/problem';
import { Door, type WriteContext } from '../../kernel/records/door';
import { ByHand } from '../../kernel/records/by-hand';
import { ForPrograms } from '../../platform/sessions/scopes';

/** What was seen in a signature: somebody takes it over, or leaves things as they are. */
@ForPrograms()
@Controller('api/v1/contact-suggestions/:id')
export class ContactSuggestionsController {
  constructor(private readonly door: Door) {}

  /** Writes the suggestion to its record. */
  @Post('take')
  @HttpCode(200)
  take(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<Written<AnyRecord>> {
    return this.decide(writing, id, 'taken');
  }

  /** Leaves the record as it is; the same is not offered again. */
  @Post('leave')
  @HttpCode(200)
  leave(@ByHand() writing: WriteContext, @RecordId() id: number): Promise<Written<AnyRecord>> {
    return this.decide(writing, id, 'left');
  }

  private decide(writing: WriteContext, id: number, state: 'taken' | 'left'): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const suggestion = await unit.find('contactSuggestion', id);
      if (suggestion.state !== 'open') throw new Problem('conflict', 'This was decided already.');
      const object = suggestion.contact === null ? 'lead' : 'contact';
      const record = await unit.find(object, Number(suggestion[object]));
      const name = String(record[objectType(object).nameField]);
      if (state === 'taken')
        await unit.change(object, record.id, { [String(suggestion.field)]: suggestion.value });
      else unit.label = `Left ${name} as it is`;
      return unit.change('contactSuggestion', id, { state }, { setter: 'feature' });
    });
  }
}

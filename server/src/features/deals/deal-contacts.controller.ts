import { Controller, Post } from '@nestjs/common';
import Joi from 'joi';
import { type AnyRecord, type Written } from '@zawn/core';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { ByHand } from '../../kernel/records/by-hand';
import { Door, type WriteContext } from '../../kernel/records/door';
import { ForPrograms } from '../../platform/sessions/scopes';

const somebodyNew = Joi.object<{ name: string; email?: string | null; role: string; stance?: string }>({
  name: Joi.string().max(200).required().label('Name'),
  email: Joi.string().max(254).allow('', null).label('Email'),
  role: Joi.string().max(60).required().label('Role in the decision'),
  stance: Joi.string().max(60).label('Stands to us'),
});

/** Naming who has a part in a deal and is not on file yet. */
@ForPrograms()
@Controller('api/v1/deals/:id/new-contact')
export class DealContactsController {
  constructor(private readonly door: Door) {}

  /** Adds a contact of the deal's account and names the part they have in it, as one change. */
  @Post()
  async add(
    @ByHand() writing: WriteContext,
    @RecordId() id: number,
    @CheckedBody(somebodyNew) { name, email, role, stance }: CheckedAs<typeof somebodyNew>,
  ): Promise<Written<AnyRecord>> {
    return this.door.write(writing, async (unit) => {
      const deal = await unit.find('deal', id);
      unit.label = `“${name}” has a part in “${String(deal.name)}”`;
      const person = {
        name,
        email: email || null,
        account: deal.account,
        relationship: 'prospect',
        owner: unit.actor.personId,
      };
      // The account is that of the deal, whoever sees it.
      const contact = await unit.create('contact', person, 'hand', ['account']);
      return unit.create('dealContact', { deal: id, contact: contact.id, role, stance: stance ?? 'unknown' });
    });
  }
}

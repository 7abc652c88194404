import { Controller, Delete, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import {
  type Actor,
  type ConversionChoice,
  type ConversionPart,
  type ConversionPreview,
  type Converted,
  type Undone,
  type Written,
} from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
import { type WriteContext } from '../../kernel/records/door';
import { CurrentActor, Version } from '../../platform/sessions/current-actor';
import { ByHand } from '../../kernel/records/by-hand';
import { Conversion } from './conversion';
import { ForPrograms } from '../../platform/sessions/scopes';

const part = Joi.object<ConversionPart>({
  link: Joi.number().integer().positive(),
  create: Joi.object().unknown(),
}).xor('link', 'create');

const choiceBody = Joi.object<ConversionChoice>({
  contact: part.required(),
  others: Joi.array().items(part).max(20).default([]),
  account: part.allow(null).default(null),
  deal: Joi.object().unknown().allow(null).default(null),
  won: Joi.boolean().default(false),
});

@ForPrograms()
@Controller('api/v1/leads/:id/conversion')
export class ConversionController {
  constructor(private readonly conversion: Conversion) {}

  /** What converting a lead would create, link and carry over. Nothing is written. */
  @Get()
  preview(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<ConversionPreview> {
    return this.conversion.preview(actor, id);
  }

  /** Converts a lead into a contact, its account and, when wanted, a deal. */
  @Post()
  @HttpCode(201)
  convert(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @RecordId() id: number,
    @CheckedBody(choiceBody) choice: CheckedAs<typeof choiceBody>,
  ): Promise<Written<Converted>> {
    return this.conversion.convert(writing, id, version, choice);
  }

  /** Takes the conversion back as a whole, as long as nothing has come to rest on it. */
  @Delete()
  reverse(@CurrentActor() actor: Actor, @RecordId() id: number): Promise<Written<Undone>> {
    return this.conversion.reverse(actor, id);
  }
}

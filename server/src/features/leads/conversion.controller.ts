import { Body, Controller, Delete, Get, HttpCode, Param, Post } from '@nestjs/common';
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
import { checked } from '../../platform/http/checked';
import { recordId } from '../../platform/http/record-id';
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

  @Get()
  preview(@CurrentActor() actor: Actor, @Param('id') id: string): Promise<ConversionPreview> {
    return this.conversion.preview(actor, recordId(id));
  }

  @Post()
  @HttpCode(201)
  convert(
    @ByHand() writing: WriteContext,
    @Version() version: number,
    @Param('id') id: string,
    @Body() body: unknown,
  ): Promise<Written<Converted>> {
    return this.conversion.convert(writing, recordId(id), version, checked(choiceBody, body));
  }

  /** Takes the conversion back as a whole, as long as nothing has come to rest on it. */
  @Delete()
  reverse(@CurrentActor() actor: Actor, @Param('id') id: string): Promise<Written<Undone>> {
    return this.conversion.reverse(actor, recordId(id));
  }
}

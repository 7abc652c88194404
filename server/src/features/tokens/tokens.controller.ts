import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import Joi from 'joi';
import { tokenScopes, type Actor, type ApiToken, type NewApiToken, type TokenScope } from '@zawn/core';
import { checked } from '../../platform/http/checked';
import { recordId } from '../../platform/http/record-id';
import { type Asked } from '../../platform/database/once';
import { CurrentActor, Once } from '../../platform/sessions/current-actor';
import { Tokens } from './tokens';

const making = Joi.object<{ name: string; scope: TokenScope }>({
  name: Joi.string().trim().min(1).max(80).required().label('Name'),
  scope: Joi.string()
    .valid(...tokenScopes.map(({ key }) => key))
    .required()
    .label('What it may do'),
});

@Controller('api/v1/tokens')
export class TokensController {
  constructor(private readonly tokens: Tokens) {}

  @Get()
  async own(@CurrentActor() actor: Actor): Promise<{ tokens: ApiToken[] }> {
    return { tokens: await this.tokens.of(actor) };
  }

  @Post()
  make(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @Body() body: unknown,
  ): Promise<NewApiToken> {
    const { name, scope } = checked(making, body);
    return this.tokens.make(actor, name, scope, asked);
  }

  @Post(':id/revoke')
  @HttpCode(204)
  revoke(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @Param('id') id: string,
  ): Promise<void> {
    return this.tokens.revoke(actor, recordId(id), asked);
  }
}

import { Controller, Get, HttpCode, Post } from '@nestjs/common';
import Joi from 'joi';
import { tokenScopes, type Actor, type ApiToken, type NewApiToken, type TokenScope } from '@zawn/core';
import { CheckedBody, type CheckedAs, RecordId } from '../../platform/http/checked';
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

  /** The person’s own tokens, without their secrets. */
  @Get()
  async own(@CurrentActor() actor: Actor): Promise<{ tokens: ApiToken[] }> {
    return { tokens: await this.tokens.of(actor) };
  }

  /** Makes a token. Its secret is in this answer and never again. */
  @Post()
  make(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @CheckedBody(making) { name, scope }: CheckedAs<typeof making>,
  ): Promise<NewApiToken> {
    return this.tokens.make(actor, name, scope, asked);
  }

  /** Revokes a token at once. */
  @Post(':id/revoke')
  @HttpCode(204)
  revoke(
    @CurrentActor() actor: Actor,
    @Once() asked: Asked | undefined,
    @RecordId() id: number,
  ): Promise<void> {
    return this.tokens.revoke(actor, id, asked);
  }
}

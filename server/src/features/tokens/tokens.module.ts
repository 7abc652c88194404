import { Module } from '@nestjs/common';
import { TokensController } from './tokens.controller';
import { Tokens } from './tokens';
import { Bearers } from '../../kernel/sessions/bearers';

/** Personal tokens, with which programs act for their person. */
@Module({
  controllers: [TokensController],
  providers: [Tokens, { provide: Bearers, useExisting: Tokens }],
  exports: [Bearers],
})
export class TokensModule {}

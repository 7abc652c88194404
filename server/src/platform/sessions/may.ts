import {
  applyDecorators,
  SetMetadata,
  UseGuards,
  type CanActivate,
  type ExecutionContext,
} from '@nestjs/common';
import { policyOf, type Act } from '@zawn/core';
import { Problem } from '../http/problem';
import { actorOf } from './current-actor';

export const MAY = 'may';

class MayGuard implements CanActivate {
  constructor(
    private readonly act: Act,
    private readonly refusal: string,
  ) {}

  canActivate(context: ExecutionContext): boolean {
    if (!policyOf(actorOf(context)).may(this.act)) throw new Problem('not-allowed', this.refusal);
    return true;
  }
}

/**
 * Opens a route, or all routes of a controller, only to people who may do something.
 * @example
 * @May('keepBackups', 'Your role does not let you look after backups.')
 */
export const May = (act: Act, refusal: string) =>
  applyDecorators(SetMetadata(MAY, act), UseGuards(new MayGuard(act, refusal)));

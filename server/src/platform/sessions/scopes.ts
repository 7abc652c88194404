import { SetMetadata } from '@nestjs/common';
import { type Reflector } from '@nestjs/core';
import { type ExecutionContext } from '@nestjs/common';
import { type Request } from 'express';
import { type TokenScope } from '@zawn/core';

const PROGRAMS = 'programs';
const SCOPES = 'scopes';

/**
 * Opens the routes of a controller to programs with a token: those that read to tokens that may read, the others only
 * to tokens that may do everything their person may. What is not opened is for people alone.
 */
export const ForPrograms = () => SetMetadata(PROGRAMS, true);

/** Opens one route to tokens of just these scopes, whatever its controller says. */
export const ForTokens = (...scopes: TokenScope[]) => SetMetadata(SCOPES, scopes);

/** Whether a token's scope covers the route that a request was matched to. */
export function isCovered(reflector: Reflector, context: ExecutionContext, scope: TokenScope): boolean {
  const scopes = reflector.get<TokenScope[] | undefined>(SCOPES, context.getHandler());
  if (scopes) return scopes.includes(scope);
  if (!reflector.get<boolean | undefined>(PROGRAMS, context.getClass())) return false;
  const { method } = context.switchToHttp().getRequest<Request>();
  return scope === 'all' || (scope === 'read' && method === 'GET');
}

import { SetMetadata, type ExecutionContext, type Type } from '@nestjs/common';
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

/** The scopes of the tokens that a route is open to. */
export function scopesOf(controller: Type, handler: object, method: string): TokenScope[] {
  const scopes = Reflect.getMetadata(SCOPES, handler) as TokenScope[] | undefined;
  if (scopes) return scopes;
  if (!Reflect.getMetadata(PROGRAMS, controller)) return [];
  return method.toLowerCase() === 'get' ? ['read', 'all'] : ['all'];
}

/** Whether a token's scope covers the route that a request was matched to. */
export function isCovered(context: ExecutionContext, scope: TokenScope): boolean {
  const { method } = context.switchToHttp().getRequest<Request>();
  return scopesOf(context.getClass(), context.getHandler(), method).includes(scope);
}

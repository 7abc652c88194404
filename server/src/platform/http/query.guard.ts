import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { ROUTE_ARGS_METADATA } from '@nestjs/common/constants';
import { RouteParamtypes } from '@nestjs/common/enums/route-paramtypes.enum';
import { type Request } from 'express';
import { Problem } from './problem';

/** The names of the parameters that a handler takes from the query; undefined when it takes them all. */
function namesOf(context: ExecutionContext): string[] | undefined {
  const all = Reflect.getMetadata(ROUTE_ARGS_METADATA, context.getClass(), context.getHandler().name) as
    Record<string, { data?: unknown }> | undefined;
  const queries = Object.entries(all ?? {}).filter(([kind]) => kind.startsWith(`${RouteParamtypes.QUERY}:`));
  if (queries.some(([, { data }]) => typeof data !== 'string')) return undefined;
  return queries.map(([, { data }]) => data as string);
}

/** Refuses parameters that a route does not know: what is asked for and ignored is answered wrongly. */
@Injectable()
export class QueryGuard implements CanActivate {
  canActivate(context: ExecutionContext): boolean {
    const request = context.switchToHttp().getRequest<Request>();
    if (!request.path.startsWith('/api/')) return true;
    const known = namesOf(context);
    const unknown = known && Object.keys(request.query).find((name) => !known.includes(name));
    if (unknown === undefined) return true;
    const has = known?.length ? ` It takes ${known.join(', ')}.` : '';
    throw new Problem('malformed-request', `There is no parameter “${unknown}” here.${has}`);
  }
}

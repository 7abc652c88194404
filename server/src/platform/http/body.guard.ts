import { Injectable, SetMetadata, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { type Request } from 'express';
import { Problem } from './problem';

export const RAW = 'raw';
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Marks a route that takes bytes as they are in place of JSON. */
export const TakesBytes = () => SetMetadata(RAW, true);

/**
 * Lets only JSON in where JSON is meant. A page of another site can have a browser send a form, but not JSON, so that
 * this also keeps such pages from signing anyone in.
 */
@Injectable()
export class BodyGuard implements CanActivate {
  constructor(private readonly reflector: Reflector) {}

  canActivate(context: ExecutionContext): boolean {
    const request = context.switchToHttp().getRequest<Request>();
    if (!request.path.startsWith('/api/')) return true;
    // Not even a page on the same machine may act for whoever looks at it.
    if (!SAFE.has(request.method) && request.get('Sec-Fetch-Site') === 'cross-site')
      throw new Problem('not-allowed', 'This was sent from another site. Open Zawn itself.');
    const takesBytes = this.reflector.get<boolean | undefined>(RAW, context.getHandler()) ?? false;
    const hasBody =
      request.get('Transfer-Encoding') !== undefined || Number(request.get('Content-Length')) > 0;
    const isJson = request.is('json') !== false;
    if (takesBytes && request.is(['json', 'urlencoded']))
      throw new Problem('unsupported-type', 'Send the file itself, as application/octet-stream.');
    if (!takesBytes && hasBody && !isJson)
      throw new Problem('unsupported-type', 'Send JSON, with Content-Type application/json.');
    // Whoever sends nothing is told what is missing, field by field.
    if (!takesBytes) request.body ??= {};
    return true;
  }
}

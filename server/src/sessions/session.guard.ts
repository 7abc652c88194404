import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { parse } from 'cookie';
import { Problem } from '../http/problem';
import { PUBLIC, type SignedInRequest } from './asking';
import { Sessions } from './sessions';

export const COOKIE = 'zawn_session';
const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Lets a request through when it has a session, and, where it writes, that session's CSRF token. */
@Injectable()
export class SessionGuard implements CanActivate {
  constructor(
    private readonly sessions: Sessions,
    private readonly reflector: Reflector,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<SignedInRequest>();
    const token = parse(request.get('Cookie') ?? '')[COOKIE];
    const signed = token ? await this.sessions.find(token) : undefined;
    request.actor = signed?.actor;
    request.sessionToken = token;
    if (this.reflector.get<boolean>(PUBLIC, context.getHandler())) return true;
    if (!signed) {
      throw new Problem('not-signed-in', token ? 'Your session has ended. Sign in again.' : 'Sign in first.');
    }
    if (!SAFE.has(request.method) && request.get('X-CSRF-Token') !== signed.csrf) {
      throw new Problem('missing-token', 'This page is out of date. Reload it and try again.');
    }
    return true;
  }
}

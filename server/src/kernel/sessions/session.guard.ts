import { Inject, Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { parse } from 'cookie';
import { type Actor } from '@zawn/core';
import { sessionCookie, type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { Problem } from '../../platform/http/problem';
import { currentRequest } from '../../platform/http/request-context';
import { BEFORE_SECOND_STEP, PUBLIC, type SignedInRequest } from '../../platform/sessions/current-actor';
import { Bearers } from './bearers';
import { isCovered } from '../../platform/sessions/scopes';
import { SecondSteps } from './second-steps';
import { Sessions } from './sessions';

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Lets a request through when it has a session, and, where it writes, that session's CSRF token. */
@Injectable()
export class SessionGuard implements CanActivate {
  constructor(
    private readonly sessions: Sessions,
    private readonly bearers: Bearers,
    private readonly secondSteps: SecondSteps,
    private readonly reflector: Reflector,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<SignedInRequest>();
    const secret = /^Bearer (\S{1,200})$/.exec(request.get('Authorization') ?? '')?.[1];
    if (secret !== undefined) return this.letIn(context, request, secret);
    const token = parse(request.get('Cookie') ?? '')[sessionCookie(this.config)];
    const signed = token ? await this.sessions.find(token) : undefined;
    request.actor = signed?.actor;
    currentRequest().person = signed?.actor.personId ?? 0;
    request.sessionToken = token;
    if (this.reflector.get<boolean>(PUBLIC, context.getHandler())) return true;
    if (!signed) {
      throw new Problem('not-signed-in', token ? 'Your session has ended. Sign in again.' : 'Sign in first.');
    }
    if (!SAFE.has(request.method) && request.get('X-CSRF-Token') !== signed.csrf) {
      throw new Problem('missing-token', 'This page is out of date. Reload it and try again.');
    }
    await this.refuseOwing(context, signed.actor);
    return true;
  }

  /** @throws Problem `second-step-due` when a role asks for a second step and there is none yet. */
  private async refuseOwing(context: ExecutionContext, { personId }: Actor): Promise<void> {
    const isOpen = this.reflector.getAllAndOverride<boolean>(BEFORE_SECOND_STEP, [
      context.getHandler(),
      context.getClass(),
    ]);
    if (!isOpen && (await this.secondSteps.isOwed(personId)))
      throw new Problem(
        'second-step-due',
        'Your role asks for a second step at the sign-in. Set it up first.',
      );
  }

  /** A program with a token has no page that another could act through, so it needs no second one. */
  private async letIn(context: ExecutionContext, request: SignedInRequest, secret: string): Promise<boolean> {
    const bearer = await this.bearers.find(secret);
    if (!bearer) throw new Problem('not-signed-in', 'This token is none, or was ended.');
    if (!isCovered(context, bearer.scope))
      throw new Problem('not-allowed', 'This token is not for that. Make one that may do more.');
    await this.refuseOwing(context, bearer.actor);
    request.actor = bearer.actor;
    currentRequest().person = bearer.actor.personId;
    request.isProgram = true;
    return true;
  }
}

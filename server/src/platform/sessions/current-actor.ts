import { createHash } from 'node:crypto';
import { createParamDecorator, SetMetadata, type ExecutionContext } from '@nestjs/common';
import { type Request } from 'express';
import { type Actor } from '@zawn/core';
import { type Asked } from '../database/once';
import { reads } from '../http/described';
import { Problem } from '../http/problem';

export interface SignedInRequest extends Request {
  actor?: Actor;
  sessionToken?: string;
  /** A program with a token asks, not a person in a browser. */
  isProgram?: boolean;
}

export const PUBLIC = 'public';

/** Marks a route that needs no sign-in. */
export const Public = () => SetMetadata(PUBLIC, true);

export const BEFORE_SECOND_STEP = 'beforeSecondStep';

/** Marks what is open to whoever has yet to set up the second step that their role asks for. */
export const BeforeSecondStep = () => SetMetadata(BEFORE_SECOND_STEP, true);

/** @throws Problem `not-signed-in` when nobody is. */
export function actorOf(context: ExecutionContext): Actor {
  const { actor } = context.switchToHttp().getRequest<SignedInRequest>();
  if (!actor) throw new Problem('not-signed-in', 'Sign in first.');
  return actor;
}

/** The person asking. */
export const CurrentActor = createParamDecorator((_: unknown, context: ExecutionContext): Actor =>
  actorOf(context),
);

/** Whether a program with a token asks rather than a person. */
export const IsProgram = createParamDecorator((_: unknown, context: ExecutionContext): boolean =>
  Boolean(context.switchToHttp().getRequest<SignedInRequest>().isProgram),
);

const LONGEST_KEY = 200;

/** The request as one that is to have its effect once; undefined when it brings no key. */
export function askedIn(context: ExecutionContext): Asked | undefined {
  const request = context.switchToHttp().getRequest<SignedInRequest>();
  const key = request.get('Idempotency-Key');
  if (key === undefined) return undefined;
  if (key.length === 0 || key.length > LONGEST_KEY)
    throw new Problem('malformed-request', `An Idempotency-Key has 1 to ${LONGEST_KEY} characters.`);
  const sent = JSON.stringify([request.originalUrl.split('?')[1] ?? '', request.body ?? null]);
  return {
    person: actorOf(context).personId,
    route: `${request.method} ${request.path}`,
    key,
    contentHash: createHash('sha256').update(sent).digest('hex'),
  };
}

/** The request as one that is to have its effect once; undefined when it brings no key. */
export const Once = createParamDecorator(
  (_: unknown, context: ExecutionContext) => askedIn(context),
  [reads('Idempotency-Key')],
);

/** The version in `If-Match`. */
function versionIn(context: ExecutionContext): number {
  const header = context.switchToHttp().getRequest<Request>().get('If-Match');
  if (header === undefined) {
    throw new Problem(
      'version-required',
      'Say in If-Match which version of the record this change was made to.',
    );
  }
  const version = Number(header.replace(/^W\//, '').replaceAll('"', ''));
  if (!Number.isInteger(version) || version < 1) {
    throw new Problem('malformed-request', `If-Match is ${header}; it must be a version number.`);
  }
  return version;
}

/** The version of the record that a change was made against. */
export const Version = createParamDecorator(
  (_: unknown, context: ExecutionContext) => versionIn(context),
  [reads('If-Match')],
);

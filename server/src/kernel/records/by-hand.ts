import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import { actorOf, askedIn, type SignedInRequest } from '../../platform/sessions/current-actor';
import { reads } from '../../platform/http/described';
import { type WriteContext } from './door';

/** The person writing by hand, with the request that is to have its effect once. */
export const ByHand = createParamDecorator(
  (_: unknown, context: ExecutionContext): WriteContext => {
    const { isProgram } = context.switchToHttp().getRequest<SignedInRequest>();
    const asked = askedIn(context);
    return { actor: actorOf(context), through: isProgram ? 'api' : 'hand', ...(asked ? { asked } : {}) };
  },
  [reads('Idempotency-Key')],
);

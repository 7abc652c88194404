import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import { actorOf, askedIn, type SignedInRequest } from '../../platform/sessions/asking';
import { type Writing } from './door';

/** The person writing by hand, with the request that is to have its effect once. */
export const ByHand = createParamDecorator((_: unknown, context: ExecutionContext): Writing => {
  const { isProgram } = context.switchToHttp().getRequest<SignedInRequest>();
  const asked = askedIn(context);
  return { actor: actorOf(context), through: isProgram ? 'api' : 'hand', ...(asked ? { asked } : {}) };
});

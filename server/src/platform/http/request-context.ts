import { AsyncLocalStorage } from 'node:async_hooks';
import { type NextFunction, type Request, type Response } from 'express';
import { Problem } from './problem';

/** The request on whose behalf something happens: who asks, and whether they still wait for an answer. */
export interface RequestContext {
  /** 0 before it is known, and for what the server does by itself. */
  person: number;
  /** Aborted when the client has gone before it was answered. */
  signal?: AbortSignal;
}

const contexts = new AsyncLocalStorage<RequestContext>();
const BY_ITSELF: RequestContext = { person: 0 };

/** The request being answered; of nobody's while the server works by itself. */
export const currentRequest = (): RequestContext => contexts.getStore() ?? BY_ITSELF;

/** Why work stops that nobody waits for any more. */
export const noLongerAsked = () => new Problem('unavailable', 'The question was called off.');

/** Does what many requests wait for: it goes on when the one that began it is called off. */
export const byItself = <T>(work: () => T): T => contexts.run(BY_ITSELF, work);

/** Lets whatever a request sets going know on whose behalf it runs. */
export function followRequest(_request: Request, response: Response, next: NextFunction): void {
  const gone = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) gone.abort(noLongerAsked());
  });
  contexts.run({ person: 0, signal: gone.signal }, next);
}

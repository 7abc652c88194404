import { LessThan, type EntityManager } from 'typeorm';
import { Problem } from '../http/problem';
import { type Asked, type RequestRow } from './rows';

export { type Asked };

/** Answers are kept for as long as somebody may still try again. */
const KEPT_MS = 7 * 86_400_000;

const differs = () =>
  new Problem(
    'key-reused',
    'This Idempotency-Key came with another request before. Give each request a key of its own. Nothing was written.',
  );

/**
 * What the same request was answered before.
 * @throws Problem `key-reused` when the key came with something else.
 */
export async function earlierAnswer<T>(
  manager: EntityManager,
  asked: Asked | undefined,
): Promise<{ answer: T } | undefined> {
  if (!asked) return undefined;
  const { person, route, key, contentHash } = asked;
  const row = await manager.findOneBy<RequestRow>('request', { person, route, key });
  if (row && row.contentHash !== contentHash) throw differs();
  return row ? { answer: JSON.parse(row.answer) as T } : undefined;
}

/**
 * Does a piece of work within a transaction, unless the same request did it before: then its answer is given again.
 * The answer is kept in the transaction of the work, so that it is there exactly when its effect is.
 * @param at the instant of the request.
 */
export async function once<T>(
  manager: EntityManager,
  asked: Asked | undefined,
  at: string,
  work: () => Promise<T>,
): Promise<T> {
  const earlier = await earlierAnswer<T>(manager, asked);
  if (earlier) return earlier.answer;
  const value = await work();
  if (asked) {
    await manager.insert('request', { ...asked, answer: JSON.stringify(value ?? null), at });
    await manager.delete('request', {
      at: LessThan(new Date(Date.parse(at) - KEPT_MS).toISOString()),
    });
  }
  return value;
}

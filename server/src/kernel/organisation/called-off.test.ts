import { EventEmitter } from 'node:events';
import { type Request, type Response } from 'express';
import { Database } from '../../platform/database/database';
import { currentRequest, followRequest } from '../../platform/http/request-context';
import { startServer, type TestServer } from '../../testing';
import { Organisation } from './organisation';

let server: TestServer;
beforeAll(async () => {
  server = await startServer({ demo: true });
});
afterAll(() => server.close());

/** Does something for a request, and a way to let go of that request. */
function asRequest<T>(work: () => T): { done: T; goAway: () => void } {
  const response = Object.assign(new EventEmitter(), { writableFinished: false });
  let done: T | undefined;
  followRequest({} as Request, response as unknown as Response, () => (done = work()));
  return { done: done as T, goAway: () => response.emit('close') };
}

describe('what is read once for everybody', () => {
  it('is read on, and answers the others, when whoever asked first has gone', async () => {
    const organisation = server.app.get(Organisation);
    const { reader } = server.app.get(Database);
    organisation.forget();
    // A reader that waits its turn, and refuses whoever has gone meanwhile.
    const read = jest.spyOn(reader, 'many').mockImplementation(async () => {
      const { signal } = currentRequest();
      await new Promise((resolve) => setTimeout(resolve, 50));
      signal?.throwIfAborted();
      return [];
    });
    const first = asRequest(() => organisation.mayLackRates());
    const second = asRequest(() => organisation.mayLackRates());
    first.goAway();
    await expect(second.done).resolves.toBe(false);
    await expect(first.done).resolves.toBe(false);
    expect(read).toHaveBeenCalled();
    read.mockRestore();
  });

  it('is told what to say to whoever has gone: no failure of the server', () => {
    const signals: (AbortSignal | undefined)[] = [];
    const { goAway } = asRequest(() => signals.push(currentRequest().signal));
    goAway();
    expect(signals[0]?.reason).toMatchObject({ kind: 'unavailable' });
  });
});

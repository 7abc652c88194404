import { callInTurn } from './in-turn';

/** A record on a server that takes a change only against the version it has. */
function aServer(record: { version: number; days: string }) {
  const sent: string[] = [];
  let running = 0;
  let atOnce = 0;
  globalThis.fetch = jest.fn(
    async (path: string, { headers, body }: { headers: Record<string, string>; body: string }) => {
      atOnce = Math.max(atOnce, (running += 1));
      await new Promise((done) => setTimeout(done, 5));
      running -= 1;
      sent.push(`${path.replace('/api/v1', '')} ${headers['If-Match']}`);
      const seen = Number(headers['If-Match']?.replaceAll('"', ''));
      if (seen !== record.version)
        return {
          ok: false,
          status: 409,
          json: () => Promise.resolve({ type: '/problems/conflict', detail: 'Changed meanwhile' }),
        };
      Object.assign(record, JSON.parse(body), { version: record.version + 1 });
      return { ok: true, status: 200, json: () => Promise.resolve({ value: { ...record } }) };
    },
  ) as unknown as typeof fetch;
  return { record, sent, atOnce: () => atOnce };
}

const change = (path: string, version: number, days: string) =>
  callInTurn('PATCH', path, { version, body: { days } });

describe('writes of one window to one record', () => {
  it('go out one after the other, each against what the one before has left', async () => {
    const { record, sent, atOnce } = aServer({ version: 4, days: 'mon tue wed' });
    await Promise.all([
      change('/teams/1', 4, 'tue wed'),
      change('/teams/1', 4, 'wed'),
      change('/teams/1', 4, 'wed thu'),
    ]);
    expect(record).toEqual({ version: 7, days: 'wed thu' });
    expect(sent).toEqual(['/teams/1 "4"', '/teams/1 "5"', '/teams/1 "6"']);
    expect(atOnce()).toBe(1);
    // Read again in between: the screen may be at any of the window's own steps.
    await change('/teams/1', 5, 'fri');
    expect(record.days).toBe('fri');
  });

  it('are of one record wherever they are sent: what is done with it is done to the version just written', async () => {
    const { record, sent, atOnce } = aServer({ version: 4, days: 'mon' });
    await change('/deals/8', 4, 'tue');
    // The screen has not been read again yet.
    const closed = callInTurn('POST', '/deals/8/close', { version: 4, body: { days: 'wed' } });
    const reopened = callInTurn('POST', '/deals/8/reopen', { version: 4, body: { days: 'thu' } });
    await Promise.all([closed, reopened]);
    expect(record).toEqual({ version: 7, days: 'thu' });
    expect(sent).toEqual(['/deals/8 "4"', '/deals/8/close "5"', '/deals/8/reopen "6"']);
    expect(atOnce()).toBe(1);
  });

  it('are refused where somebody else has changed it meanwhile', async () => {
    const { record } = aServer({ version: 1, days: 'mon' });
    await change('/teams/2', 1, 'tue');
    record.version = 3;
    record.days = 'sun';
    await expect(change('/teams/2', 1, 'wed')).rejects.toThrow('Changed meanwhile');
    await expect(change('/teams/2', 2, 'wed')).rejects.toThrow('Changed meanwhile');
    expect(record.days).toBe('sun');
    await change('/teams/2', 3, 'wed');
    // What was seen before the other's change is not taken for one's own.
    await expect(change('/teams/2', 1, 'thu')).rejects.toThrow('Changed meanwhile');
    expect(record.days).toBe('wed');
  });

  it('go on after one that was refused, and do not wait for other records', async () => {
    const { record, atOnce } = aServer({ version: 1, days: 'mon' });
    const refused = change('/teams/3', 9, 'tue');
    const next = change('/teams/3', 1, 'wed');
    await expect(refused).rejects.toThrow('Changed meanwhile');
    await next;
    expect(record.days).toBe('wed');
    await Promise.allSettled([change('/teams/4', 2, 'thu'), change('/teams/5', 2, 'fri')]);
    expect(atOnce()).toBe(2);
  });

  it('make something once, however often Enter is pressed while it is on its way', async () => {
    const sent: unknown[] = [];
    globalThis.fetch = jest.fn(async (_path: string, { body }: { body: string }) => {
      await new Promise((done) => setTimeout(done, 5));
      sent.push(JSON.parse(body));
      return { ok: true, status: 201, json: () => Promise.resolve({ value: { id: sent.length } }) };
    }) as unknown as typeof fetch;
    const make = (name: string) =>
      callInTurn<{ value: { id: number } }>('POST', '/deals', { body: { name } });
    const made = await Promise.all([make('Pump'), make('Pump'), make('Weir')]);
    expect(made.map(({ value }) => value.id)).toEqual([1, 1, 2]);
    expect(sent).toEqual([{ name: 'Pump' }, { name: 'Weir' }]);
    // Said again later, it is wished again.
    expect((await make('Pump')).value.id).toBe(3);
  });
});

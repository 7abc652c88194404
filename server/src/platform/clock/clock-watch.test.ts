import { Logger } from '@nestjs/common';
import request from 'supertest';
import { type Backups } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';
import { Clock } from './clock';
import { ClockWatch } from './clock-watch';

let server: TestServer;
beforeAll(async () => {
  server = await startServer({ demo: true });
});
afterAll(() => server.close());

const health = async () =>
  (await request(server.app.getHttpServer()).get('/api/health').expect(200)).body as object;

describe('the clock of the machine', () => {
  it('is right as long as it goes on, and a little off is borne', async () => {
    expect(await health()).toMatchObject({ status: 'ok', clock: 'right' });
    const off = jest.spyOn(server.app.get(Clock), 'now').mockReturnValue('2026-11-19T09:29:30.000Z');
    expect(await health()).toMatchObject({ clock: 'right' });
    off.mockRestore();
  });

  it('is said to be behind once it was set back before the last change: at the start, by health, and beside the backups', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    await operations.call('post', '/tags', { name: 'just now' }).expect(201);
    const back = jest.spyOn(server.app.get(Clock), 'now').mockReturnValue('2026-11-19T07:00:00.000Z');
    const warned = jest.spyOn(Logger.prototype, 'warn').mockReturnValue(undefined);
    expect(await health()).toMatchObject({ status: 'ok', clock: 'behind' });
    await server.app.get(ClockWatch).onApplicationBootstrap();
    expect(warned.mock.calls.map(([text]) => String(text))).toContainEqual(
      expect.stringMatching(/stands 150 minutes before/),
    );
    const { body } = await operations.call('get', '/backups').expect(200);
    expect((body as Backups).clockBehind).toBe(150);
    back.mockRestore();
    warned.mockRestore();
    expect(await health()).toMatchObject({ clock: 'right' });
  });
});

import { createServer as createHttpServer } from 'node:http';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type AddressInfo } from 'node:net';
import request from 'supertest';
import { readConfig, StartError } from './config';
import { listen } from './server';
import { startServer } from './testing';

const folder = mkdtempSync(join(tmpdir(), 'zawn-config-'));
const inTheWay = join(folder, 'file');
writeFileSync(inTheWay, '');

describe('starting', () => {
  it('takes port, data folder and day from the environment', () => {
    const config = readConfig({ ZAWN_DATA: join(folder, 'new'), ZAWN_TODAY: '2026-11-19' });
    expect(config).toEqual({
      port: 4620,
      address: 'http://localhost:4620',
      dataFolder: join(folder, 'new'),
      today: '2026-11-19',
      demo: false,
      reading: 'pooled',
    });
  });

  it.each([
    [{ ZAWN_ADDRESS: 'zawn.example' }, 'ZAWN_ADDRESS must be where people open Zawn'],
    [{ PORT: 'harbour' }, 'PORT is “harbour”; it must be a number from 1 to 65535.'],
    [{ ZAWN_TODAY: '2026-02-30' }, 'ZAWN_TODAY is “2026-02-30”; it must be a real date as YYYY-MM-DD.'],
    [
      { ZAWN_DATA: join(inTheWay, 'data') },
      `The data folder ${join(inTheWay, 'data')} cannot be written to.`,
    ],
    [{ ZAWN_DATA: '/proc/zawn' }, 'The data folder /proc/zawn cannot be written to.'],
  ])('ends with one clear line for %j', (env, line) => {
    const read = () => readConfig({ ZAWN_DATA: folder, ...env });
    expect(read).toThrow(StartError);
    expect(read).toThrow(line);
  });

  it('says when its port is taken', async () => {
    const other = createHttpServer().listen(0, '127.0.0.1');
    await new Promise((resolve) => other.once('listening', resolve));
    const { port } = other.address() as AddressInfo;
    const { app, close } = await startServer({ demo: false });
    await expect(listen(app, port)).rejects.toThrow(`Port ${port} is taken.`);
    await close();
    other.close();
  });

  it('tells that it is well', async () => {
    const { app, close } = await startServer({ demo: false });
    const { body } = await request(app.getHttpServer()).get('/api/health').expect(200);
    expect(body).toEqual({ status: 'ok', version: '0.1.0' });
    await close();
  });
});

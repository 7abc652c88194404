import 'reflect-metadata';
import { cpSync, existsSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type NestExpressApplication } from '@nestjs/platform-express';
import request from 'supertest';
import {
  ask,
  type AnyRecord,
  type FigureRow,
  type FiguresAnswer,
  type ProblemBody,
  type Question,
  type RecordsPage,
  type SignedIn,
  type Written,
} from '@zawn/core';
import { type Config } from './platform/config/config';
import { closeDatabase, openDatabase } from './platform/database/data-source';
import { DEMO_PASSWORD, loadDemo } from './demo/load';
import { NightlyJobs } from './kernel/jobs/nightly-jobs';
import { type Features } from './app.module';
import { createServer } from './server';
import { AnswerCheck } from './testing-answers';

/** The day the tests take place on. */
export const TODAY = '2026-11-19';

export interface TestServer {
  app: NestExpressApplication;
  folder: string;
  close: () => Promise<void>;
}

/** A whole server around a database file of its own, with the demo company or with nothing in it. */
export async function startServer({
  demo,
  today = TODAY,
  mail = false,
  isDescribed = true,
  config = {},
  features = {},
  folder = mkdtempSync(join(tmpdir(), 'zawn-test-')),
}: {
  demo: boolean;
  /** Where its data lies; a new folder when left out. */
  folder?: string;
  today?: string;
  /** What is set up otherwise than usual. */
  config?: Partial<Config>;
  /** What features of the test's own bring along. */
  features?: Partial<Features>;
  /** Holds every answer to the API's description, which knows nothing of a test's own objects. */
  isDescribed?: boolean;
  /** Listens for mail as well. */
  mail?: boolean;
}): Promise<TestServer> {
  if (demo) cpSync(await demoOn(today), folder, { recursive: true });
  const listening = mail ? { mail: { port: 0, isChosen: true } } : {};
  const answers = isDescribed ? new AnswerCheck() : undefined;
  const app = await serve(folder, today, demo, { ...listening, ...config }, features, answers);
  return {
    app,
    folder,
    close: async () => {
      await app.close();
      rmSync(folder, { recursive: true, force: true });
      if (answers && answers.faults.size > 0)
        throw new Error(`Answered otherwise than described:\n${[...answers.faults].join('\n')}`);
    },
  };
}

async function serve(
  dataFolder: string,
  today: string,
  demo: boolean,
  more: Partial<Config> = {},
  features: Partial<Features> = {},
  answers?: AnswerCheck,
): Promise<NestExpressApplication> {
  const address = 'http://zawn.test';
  const config: Config = { port: 0, address, dataFolder, today, demo, reading: 'here', ...more };
  const app = await createServer(config, features);
  if (answers) {
    app.useGlobalInterceptors(answers);
    answers.watch(app.getHttpServer());
  }
  // Once for all requests, not anew for each.
  await app.listen(0, '127.0.0.1');
  await app.get(NightlyJobs).done();
  return app;
}

/** A data folder with the demo company of a day, its nightly work done; made once for all tests of a run. */
async function demoOn(today: string): Promise<string> {
  const shared = process.env.ZAWN_TEST_DEMOS ?? mkdtempSync(join(tmpdir(), 'zawn-demos-'));
  const folder = join(shared, today);
  if (existsSync(folder)) return folder;
  const unfinished = mkdtempSync(`${folder}-`);
  const connections = await openDatabase(unfinished);
  await loadDemo(connections, today, unfinished);
  await closeDatabase(connections);
  await (await serve(unfinished, today, true)).close();
  try {
    renameSync(unfinished, folder);
  } catch {
    // Another test made it in the meantime.
    rmSync(unfinished, { recursive: true, force: true });
  }
  return folder;
}

export type Method = 'get' | 'post' | 'patch' | 'delete';

interface Layer {
  route?: { path: string; methods: Record<string, boolean> };
}

/** Every route of the running application: its method and address, parameters as `:id`. */
export function routesOf({ app }: TestServer): { method: Method; path: string }[] {
  const { router } = app.getHttpAdapter().getInstance() as { router: { stack: Layer[] } };
  return router.stack.flatMap(({ route }) =>
    route
      ? Object.keys(route.methods)
          .filter((method): method is Method => ['get', 'post', 'patch', 'delete'].includes(method))
          .map((method) => ({ method, path: route.path }))
      : [],
  );
}

/** Someone signed in, calling the API as a browser would. */
export class Caller {
  private constructor(
    private readonly server: TestServer,
    readonly cookie: string,
    readonly session: SignedIn,
  ) {}

  static async signIn(server: TestServer, email: string): Promise<Caller> {
    const response = await request(server.app.getHttpServer())
      .post('/api/v1/session')
      .send({ email: `${email}@brackwater.example`, password: DEMO_PASSWORD })
      .expect(201);
    const [cookie] = response.get('Set-Cookie') as [string];
    return new Caller(server, cookie.split(';')[0], response.body as SignedIn);
  }

  get id(): number {
    return this.session.me.id;
  }

  call(method: Method, path: string, body?: object, headers: Record<string, string> = {}): request.Test {
    const agent = request(this.server.app.getHttpServer());
    const headersOfAll = { Cookie: this.cookie, 'X-CSRF-Token': this.session.csrf };
    const test = agent[method](`/api/v1${path}`).set({ ...headersOfAll, ...headers });
    return body ? test.send(body) : test;
  }

  /** A call made against a version of a record. */
  against(version: number, method: Method, path: string, body?: object): request.Test {
    return this.call(method, path, body, { 'If-Match': `"${version}"` });
  }

  async records(question: Question, limit = 1000): Promise<RecordsPage> {
    const { body } = await this.call('post', '/questions/records', { question, limit }).expect(200);
    return body as RecordsPage;
  }

  /** Adds a deal of one's own on the first account there is, with what is said of it. */
  async addDeal(values: object): Promise<AnyRecord> {
    const [account] = (await this.records(ask('account'), 1)).rows;
    const usual = {
      name: 'To and fro',
      account: account.id,
      owner: this.id,
      value: 100_000,
      currency: 'GBP',
      closeOn: '2026-12-31',
    };
    return valueOf<AnyRecord>(await this.call('post', '/deals', { ...usual, ...values }).expect(201));
  }

  async figures(question: Question): Promise<FigureRow[]> {
    const { body } = await this.call('post', '/questions/figures', { questions: [question] }).expect(200);
    return (body as { answers: FiguresAnswer[] }).answers[0].rows;
  }
}

/** What a refusal says. */
export const detailOf = ({ body }: { body: unknown }): string => (body as ProblemBody).detail;

/** What a write came to. */
export const valueOf = <T>({ body }: { body: unknown }): T => (body as Written<T>).value;

/** Reads an answer as bytes: goes into `.buffer().parse(…)`. */
export const inBytes: Parameters<request.Test['parse']>[0] = (response, done) => {
  const parts: Buffer[] = [];
  response.on('data', (part: Buffer) => parts.push(part));
  response.on('end', () => done(null, Buffer.concat(parts)));
};

/** A drawing as small as one can be, in Base64. */
export const PNG_OF_ONE_DOT =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

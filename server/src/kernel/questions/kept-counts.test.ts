import fc from 'fast-check';
import {
  addDays,
  allOf,
  ask,
  ME,
  type AnyRecord,
  type Condition,
  type FiguresAnswer,
  type Question,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Caller, startServer, valueOf, type Method, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const query = (sql: string) => server.app.get(Database).writer.transaction((manager) => manager.query(sql));

const counted = (from: string, to: string, ...where: Condition[]): Question => ({
  ...ask('activity', allOf({ field: 'doneAt', is: 'between', value: [from, to] }, ...where)),
  groups: [{ field: 'owner' }, { field: 'kind' }, { field: 'outcome' }],
  measures: [{ as: 'count' }, { as: 'count', where: { field: 'outcome', is: 'isEmpty' } }],
});
/** True of every activity, but nothing that counts are kept by: the records themselves are counted. */
const always: Condition = { field: 'id', is: 'above', value: 0 };
const oneByOne = (question: Question): Question => ({ ...question, where: allOf(question.where, always) });

const answers = async (who: Caller, ...questions: Question[]) => {
  const { body } = await who.call('post', '/questions/figures', { questions }).expect(200);
  return (body as { answers: FiguresAnswer[] }).answers.map(({ rows }) => rows);
};
/** Looks at kept and counted figures of some times and conditions, and fails where they differ. */
const areSame = async (who: Caller) => {
  for (const question of [
    counted('2025-04-01', '2026-03-31'),
    counted('2026-01-10', '2026-11-19'),
    counted('2026-10-20', '2026-11-18', { field: 'kind', is: 'anyOf', value: ['call'] }),
    { ...counted('2024-01-01', '2027-12-31', { field: 'outcome', is: 'isNotEmpty' }), groups: [] },
  ]) {
    const [kept, plain] = await answers(who, question, oneByOne(question));
    expect(kept).toEqual(plain);
  }
};

describe('counts that are kept', () => {
  it('answer for whoever sees everything, and for nobody else', async () => {
    const year = counted('2025-04-01', '2026-03-31');
    const ofRep = counted('2025-04-01', '2026-03-31', { field: 'owner', is: 'anyOf', value: [rep.id] });
    // Whatever lies within some time has one.
    const alsoDone = counted('2025-04-01', '2026-03-31', { field: 'doneAt', is: 'isNotEmpty' });
    const before = await answers(operations, year);
    const [own] = await answers(rep, ofRep);
    expect(before[0].length).toBeGreaterThan(5);
    expect(own.length).toBeGreaterThan(0);
    await query('UPDATE "activityCount" SET "count" = "count" + 1000');
    const [after] = await answers(operations, year);
    expect(after[0].figures[0]).toBeGreaterThan(Number(before[0][0].figures[0]) + 900);
    expect(await answers(operations, alsoDone)).toEqual([after]);
    expect(await answers(rep, ofRep)).toEqual([own]);
    await query('UPDATE "activityCount" SET "count" = "count" - 1000');
    expect(await answers(operations, year)).toEqual(before);
    await areSame(operations);
  });

  it('are the same as counting, whatever the time and the condition', async () => {
    const day = fc.integer({ min: 0, max: 1100 }).map((days) => addDays('2024-06-01', days));
    const condition = fc.constantFrom<Condition[]>(
      [],
      [{ field: 'kind', is: 'anyOf', value: ['call', 'meeting'] }],
      [{ field: 'kind', is: 'noneOf', value: ['call'] }],
      [{ field: 'outcome', is: 'isEmpty' }],
      [{ field: 'owner', is: 'anyOf', value: [ME] }],
      [{ field: 'doneAt', is: 'isNotEmpty' }],
      [{ field: 'doneAt', is: 'isEmpty' }],
      // Compared with what is not kept.
      [{ field: 'owner', is: 'noneOf', value: { field: 'deal.owner' } }],
      [
        {
          join: 'any',
          of: [
            { field: 'outcome', is: 'isEmpty' },
            { field: 'kind', is: 'anyOf', value: ['call'] },
          ],
        },
      ],
    );
    let found = 0;
    await fc.assert(
      fc.asyncProperty(
        day,
        day,
        condition,
        fc.subarray(['owner', 'kind', 'outcome']),
        async (a, b, where, by) => {
          const [from, to] = a < b ? [a, b] : [b, a];
          const question = { ...counted(from, to, ...where), groups: by.map((field) => ({ field })) };
          const [kept, plain] = await answers(operations, question, oneByOne(question));
          expect(kept).toEqual(plain);
          found += kept.length;
        },
      ),
      { numRuns: 80 },
    );
    expect(found).toBeGreaterThan(100);
  });

  it('follow every write: done, changed, given away, binned, restored, undone, taken out for good', async () => {
    const planned = { kind: 'call', name: 'Counted', owner: operations.id, dueOn: '2026-11-20' };
    const { id } = valueOf<AnyRecord>(await operations.call('post', '/activities', planned).expect(201));
    const against = async (method: Method, path: string, body?: object) => {
      const question = ask('activity', { field: 'id', is: 'is', value: id });
      const [{ version }] = (await operations.records(question)).rows;
      await operations.against(version, method, `/activities/${id}${path}`, body).expect(200);
    };
    const steps = [
      () => against('post', '/done', { outcome: 'noAnswer' }),
      () => against('patch', '', { outcome: 'agreed' }),
      () => against('patch', '', { owner: rep.id }),
      () => query(`UPDATE "activity" SET "doneAt" = '2026-03-31T22:59:59.999Z' WHERE "id" = ${id}`),
      () => query(`UPDATE "activity" SET "doneAt" = '2026-03-31T23:00:00.000Z' WHERE "id" = ${id}`),
      () => against('delete', ''),
    ];
    for (const step of steps) {
      await step();
      await areSame(operations);
    }
    const last = (await query('SELECT MAX("id") AS "id" FROM "unit"')) as { id: number }[];
    await operations.call('post', `/units/${last[0].id}/undo`).expect(200);
    await areSame(operations);
    await query(`DELETE FROM "activity" WHERE "id" = ${id}`);
    await areSame(operations);
    const [{ kept }] = (await query('SELECT SUM("count") AS "kept" FROM "activityCount"')) as {
      kept: number;
    }[];
    const [{ there }] = (await query(
      'SELECT COUNT(*) AS "there" FROM "activity" WHERE "doneAt" IS NOT NULL AND "deletedAt" IS NULL',
    )) as { there: number }[];
    expect(kept).toBe(there);
  });
});

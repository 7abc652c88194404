import { once } from 'node:events';
import { type MessagePort } from 'node:worker_threads';
import { type Actor, type ImportBucket } from '@zawn/core';
import { type ImportSetup, type TargetKey } from '@zawn/core/imports';
import { Assignment } from '../assignment/assignment';
import { Clock } from '../../platform/clock/clock';
import { connect } from '../../platform/database/data-source';
import { Database } from '../../platform/database/database';
import { Events } from '../../platform/events/events';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { DayEnds } from '../../kernel/questions/day-ends';
import { Gate } from '../../kernel/questions/gate';
import { Door } from '../../kernel/records/door';
import { derivations } from '../derivations';
import { recordHooks } from '../record-hooks';
import { SearchIndex } from '../../kernel/search/search-index';
import { ListMembers } from '../../kernel/views/list-members';
import { ImportWork, type Run } from './import-work';
import { Cancelled, type RunObserver } from './plan-writer';

/** What the thread is asked to do. */
export type Order = { database: string; today: string | undefined; actor: Actor } & (
  | { do: 'look'; path: string; target: TargetKey | undefined; reading: ImportSetup['reading'] }
  | { do: 'preview'; path: string; setup: ImportSetup }
  | { do: 'examples'; path: string; setup: ImportSetup; bucket: ImportBucket; from: number }
  | { do: 'run'; run: Run; port: MessagePort; cancelled: Int32Array }
);

/** A refusal on its way between threads, which only plain values can travel. */
export type Answer =
  | { value: unknown }
  | { problem: { kind: Problem['kind']; detail: string; more: Problem['more'] } }
  | { cancelled: true };

interface WorkerContext {
  organisation: Organisation;
  work: ImportWork;
}

let context: { of: string; made: Promise<WorkerContext> } | undefined;

/** The door and the gate on this thread’s own connections. */
async function openContext(file: string, today: string | undefined): Promise<WorkerContext> {
  const database = new Database(await connect(file), 'here');
  const clock = new Clock(today);
  const organisation = new Organisation(database, clock);
  const gate = new Gate(database, organisation, clock, new DayEnds(database));
  const door = new Door(
    database,
    gate,
    organisation,
    new SearchIndex(),
    new ListMembers(),
    clock,
    new Events(),
    recordHooks,
    derivations,
  );
  const assignment = new Assignment(database, organisation, gate, clock);
  return { organisation, work: new ImportWork(database, organisation, gate, door, assignment) };
}

const observerOn = (port: MessagePort, cancelled: Int32Array): RunObserver => ({
  progress: (done, total) => port.postMessage({ done, total }),
  isCancelled: () => Atomics.load(cancelled, 0) === 1,
  writeLock: async () => {
    const given = once(port, 'message');
    port.postMessage('writeLock');
    await given;
  },
});

async function carryOut(work: ImportWork, order: Order): Promise<unknown> {
  switch (order.do) {
    case 'look':
      return work.look(order.actor, order.path, order.target, order.reading);
    case 'preview':
      return work.preview(order.actor, order.path, order.setup);
    case 'examples':
      return work.examples(order.actor, order.path, order.setup, order.bucket, order.from);
    case 'run':
      try {
        return await work.run(order.actor, order.run, observerOn(order.port, order.cancelled));
      } finally {
        order.port.close();
      }
  }
}

/** Does one piece of import work in this thread. */
export default async function answer(order: Order): Promise<Answer> {
  const name = `${order.database} ${order.today}`;
  if (context?.of !== name) context = { of: name, made: openContext(order.database, order.today) };
  const { organisation, work } = await context.made;
  organisation.forget();
  try {
    return { value: await carryOut(work, order) };
  } catch (error) {
    if (error instanceof Cancelled) return { cancelled: true };
    if (!(error instanceof Problem)) throw error;
    const { kind, detail, more } = error;
    return { problem: { kind, detail, more } };
  }
}

import { call, type CallOptions } from './client';

/** What a window has written itself: the version that a record had before, and the one it was left with. */
interface Step {
  from: number;
  to: number;
}

const turns = new Map<string, Promise<unknown>>();
const steps = new Map<string, Step>();
/** What is on its way to make something new, by what it says. */
const making = new Map<string, Promise<unknown>>();

/** The record that a versioned write is about: a deal is closed at `/deals/7/close`, and has the version of `/deals/7`. */
const recordOf = (path: string) => /^(\/[^/]+\/\d+)\/[^/]+$/.exec(path)?.[1] ?? path;

/**
 * The version to write against. What is on the screen may be older than what this window has written a moment ago:
 * its own step is taken along. A step that somebody else had a part in, more than one version wide, is not.
 */
function versionOf(path: string, seen: number | undefined): number | undefined {
  const step = steps.get(path);
  return step && seen !== undefined && seen >= step.from && seen < step.to ? step.to : seen;
}

function remember(path: string, seen: number, answer: unknown): void {
  const to = (answer as { value?: { version?: unknown } } | undefined)?.value?.version;
  if (to !== seen + 1) return void steps.delete(path);
  const before = steps.get(path);
  steps.set(path, { from: before?.to === seen ? before.from : seen, to });
}

/**
 * Makes something new once: a second press of Enter that says the very same, while the first is still on its way, is no
 * second wish.
 */
function once<T>(path: string, body: unknown, make: () => Promise<T>): Promise<T> {
  const said = `${path} ${JSON.stringify(body)}`;
  const before = making.get(said) as Promise<T> | undefined;
  if (before) return before;
  const mine = make();
  making.set(said, mine);
  const leave = () => void making.delete(said);
  mine.then(leave, leave);
  return mine;
}

/**
 * Calls the API to write. Writes to one record go out one after the other, as they were made, each against the
 * version that the one before has left: two clicks in a row are no conflict with oneself.
 */
export function callInTurn<T>(method: string, path: string, options: CallOptions = {}): Promise<T> {
  if (method === 'POST' && options.version === undefined)
    return once(path, options.body, () => turn<T>(method, path, options));
  return turn<T>(method, path, options);
}

function turn<T>(method: string, path: string, options: CallOptions): Promise<T> {
  const record = options.version === undefined ? path : recordOf(path);
  const before = turns.get(record) ?? Promise.resolve();
  const work = async () => {
    const version = versionOf(record, options.version);
    const answer = await call<T>(method, path, { ...options, version });
    if (version !== undefined) remember(record, version, answer);
    return answer;
  };
  const mine = before.then(work, work);
  turns.set(record, mine);
  const leave = () => {
    if (turns.get(record) === mine) turns.delete(record);
  };
  mine.then(leave, leave);
  return mine;
}

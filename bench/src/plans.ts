import { type Reader } from '@zawn/server/dist/platform/database/reader';
import { type Statement } from '@zawn/server/dist/platform/database/statement';
import { type ByHand } from './by-hand';

/** How SQLite finds the rows of every statement that a piece of work reads by, as a Markdown list. */
export async function plansOf(reader: Reader, hand: ByHand, work: () => Promise<unknown>): Promise<string> {
  const read: Statement[] = [];
  const reads = { many: reader.many.bind(reader), few: reader.few.bind(reader) };
  reader.many = (statement) => (read.push(statement), reads.many(statement));
  reader.few = (statement) => (read.push(statement), reads.few(statement));
  await work().finally(() => Object.assign(reader, reads));
  return read
    .map(({ sql, parameters }) => `- ${whatOf(sql)}: ${hand.plan(sql, ...parameters).join('; ')}`)
    .join('\n');
}

/** What a statement reads, in a few words. */
function whatOf(sql: string): string {
  const table = /FROM "(\w+)" "r"/.exec(sql)?.[1] ?? 'nothing';
  const reads = /^SELECT COUNT/.test(sql) ? 'the count' : /LIMIT/.test(sql) ? 'the ids of the page' : 'rows';
  return `${reads} of \`${table}\``;
}

import { ask, objectType, type ImportLook, type ImportPreview, type ObjectKey } from '@zawn/core';
import { type TargetKey } from '@zawn/core/imports';
import { Caller, startServer, type TestServer, inBytes } from '../../testing';

let server: TestServer;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

type Format = 'csv' | 'xlsx' | 'vcard';

/** A file of all records of an object that a person sees. */
async function exported(
  object: ObjectKey,
  format: Format,
  more: { columns?: string[]; fields?: 'all' | 'shown' } = {},
): Promise<Buffer> {
  const { columns = ['name'], fields = 'all' } = more;
  const design = { draw: 'table', question: { ...ask(object), columns, sort: [{ field: 'id' }] } };
  const { body } = await operations
    .call('post', '/exports', { design, format, fields })
    .buffer()
    .parse(inBytes)
    .expect(200);
  return body as Buffer;
}

/** What importing a file as it is would do. */
async function previewed(target: TargetKey, file: Buffer): Promise<ImportPreview> {
  const { body } = await operations
    .call('post', `/imports/files?name=${target}.file&as=${target}`)
    .set('Content-Type', 'application/octet-stream')
    .send(file)
    .expect(201);
  const { file: name, setup } = body as ImportLook;
  const answer = await operations.call('post', '/imports/preview', { file: name, setup }).expect(200);
  return answer.body as ImportPreview;
}

/** Leads that were converted are read-only, and said to be. */
const isConverted = { field: 'convertedAt', is: 'isNotEmpty' } as const;

describe('what Zawn exports, imported again as it is', () => {
  const files: [TargetKey, Format][] = [
    ...(['lead', 'contact', 'account', 'deal', 'activity'] as const).flatMap(
      (target): [TargetKey, Format][] => [
        [target, 'csv'],
        [target, 'xlsx'],
      ],
    ),
    ['contact', 'vcard'],
  ];
  it.each(files)('%ss as %s change nothing, and none is refused', async (target, format) => {
    const { total } = await operations.records(ask(target), 1);
    const skipped = target === 'lead' ? (await operations.records(ask('lead', isConverted), 1)).total : 0;
    const { counts, refused, notes, table } = await previewed(target, await exported(target, format));
    expect(table.rowCount).toBe(total);
    expect({ refused: refused.slice(0, 3), notes: notes.slice(0, 3) }).toEqual({ refused: [], notes: [] });
    expect(counts).toEqual({
      create: 0,
      maybe: 0,
      update: 0,
      same: total - skipped,
      skip: skipped,
      refuse: 0,
      noted: 0,
      others: {},
      alike: 0,
    });
  });

  it('amounts that are shown bring their money along', async () => {
    const file = await exported('deal', 'csv', { columns: ['name', 'number', 'value'], fields: 'shown' });
    const [head] = file.toString('utf8').split('\r\n');
    expect(head).toBe('\uFEFFName,Number,Value,Currency');
    const { counts } = await previewed('deal', file);
    expect(counts).toMatchObject({ create: 0, maybe: 0, update: 0, refuse: 0 });
  });

  it.each(['lead', 'account', 'deal'] as const)(
    'an id that is another %s’s here is not believed',
    async (target) => {
      const { rows } = await operations.records(ask(target), 1);
      const { plural } = objectType(target);
      const text = `Zawn id,Name\n${rows[0].id},None of the ${plural}\n`;
      const { counts } = await previewed(target, Buffer.from(text));
      expect([counts.update, counts.same]).toEqual([0, 0]);
    },
  );
});

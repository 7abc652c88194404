import { ask, type AnyRecord, type ProblemBody, type RecordAnswer, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const newDeal = async (more: object = {}) => {
  const [stage] = rep.session.stages.filter(({ pipeline }) => pipeline === 1);
  const deal = {
    name: 'Quernhaven Marina: gauges',
    pipeline: 1,
    stage: stage.id,
    value: 500_000,
    currency: 'GBP',
    closeOn: '2026-12-15',
    owner: rep.id,
  };
  const { body } = await rep.call('post', '/deals', { ...deal, ...more }).expect(201);
  return (body as Written<AnyRecord>).value;
};
const read = async (id: number, who = rep) =>
  (await who.call('get', `/deals/${id}`).expect(200)).body as RecordAnswer;
const change = async (id: number, body: object, expected = 200, who = rep) => {
  const { record } = await read(id, who);
  const { body: answer } = await who.against(record.version, 'patch', `/deals/${id}`, body).expect(expected);
  return answer as Written<AnyRecord> & ProblemBody;
};
const faults = ({ faults: all = [] }: ProblemBody) => all.map(({ field, message }) => `${field}: ${message}`);
let products = 0;
const newProduct = async (more: object = {}) => {
  products += 1;
  const product = {
    code: `T-${products}`,
    name: `Test mast ${products}`,
    unitPrice: 120_000,
    currency: 'GBP',
  };
  const { body } = await operations.call('post', '/products', { ...product, ...more }).expect(201);
  return (body as Written<AnyRecord>).value;
};
const line = (more: object = {}) => ({ name: 'Survey', quantity: 2, unitPrice: 15_050, ...more });

describe('the lines of a deal', () => {
  it('say a product or something in words, so many times at a price, and come to a sum each', async () => {
    const product = await newProduct();
    const { id } = await newDeal();
    await change(id, { lines: [{ product: product.id, quantity: 3, unitPrice: 110_000 }, line()] });
    const { record, parts } = await read(id);
    expect(parts?.lines).toMatchObject([
      { product: product.id, name: product.name, quantity: 3, unitPrice: 110_000, sum: 330_000, position: 0 },
      { product: null, name: 'Survey', quantity: 2, sum: 30_100, position: 1 },
    ]);
    expect(record).toMatchObject({ value: 500_000, valueFrom: 'typed', linesValue: 360_100 });
  });

  it('set the value once that is said, follow each change, and leave what was typed in for later', async () => {
    const { id } = await newDeal({ lines: [line()] });
    await change(id, { valueFrom: 'lines' });
    expect((await read(id)).record).toMatchObject({ value: 30_100, typedValue: 500_000, weighted: 3_010 });
    await change(id, { lines: [line(), line({ quantity: 0.5, unitPrice: 25 })] });
    expect((await read(id)).record).toMatchObject({ value: 30_113, linesValue: 30_113 });
    await change(id, { valueFrom: 'typed' });
    expect((await read(id)).record).toMatchObject({ value: 500_000, typedValue: null, linesValue: 30_113 });
    await change(id, { valueFrom: 'lines' });
    await change(id, { lines: [] });
    expect((await read(id)).record).toMatchObject({ value: 500_000, valueFrom: 'typed', linesValue: null });
  });

  it('are written, counted and undone with their deal, as one change', async () => {
    const { id } = await newDeal({ valueFrom: 'lines', lines: [line()] });
    const before = await read(id);
    expect(before.record).toMatchObject({ value: 30_100, typedValue: 500_000 });
    const { unit, label } = await change(id, { lines: [line({ quantity: 7 })] });
    expect(label).toBe('Changed the lines of “Quernhaven Marina: gauges”');
    expect((await read(id)).record.value).toBe(105_350);
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    const after = await read(id);
    expect(after.record).toMatchObject({ value: 30_100, linesValue: 30_100 });
    expect(after.parts?.lines).toMatchObject([{ name: 'Survey', quantity: 2, sum: 30_100 }]);
  });

  it.each([
    ['nothing of something', { quantity: 0 }, 'lines.0.quantity: Line 1: quantity must be at least 0.001'],
    ['less than nothing', { quantity: -1 }, 'lines.0.quantity: Line 1: quantity must be at least 0.001'],
    [
      'more digits than are kept',
      { quantity: 1.123456 },
      'lines.0.quantity: Line 1: quantity takes at most 3 digits behind the point',
    ],
    [
      'more than a thousand million',
      { quantity: 1_000_000_001 },
      'lines.0.quantity: Line 1: quantity must be at most 1000000000',
    ],
    [
      'more than can be counted',
      { quantity: 1e9, unitPrice: 9_000_001 },
      'lines.0.quantity: Line 1: quantity: the line comes to more than can be counted',
    ],
    ['a quantity in words', { quantity: 'two' }, 'lines.0.quantity: Line 1: quantity must be a number'],
    ['a price below nothing', { unitPrice: -1 }, 'lines.0.unitPrice: Line 1: unit price must be at least 0'],
    ['no price', { unitPrice: null }, 'lines.0.unitPrice: Line 1: unit price must be a number'],
    [
      'nothing that is sold',
      { name: '' },
      'lines.0.name: Line 1: what: choose a product, or say what is sold',
    ],
    [
      'a product that is not there',
      { product: 999_999 },
      'lines.0.product: Line 1: product: there is no such product',
    ],
  ])('do not say %s', async (_what, wrong, fault) => {
    const { id } = await newDeal({ lines: [line()] });
    const { version } = (await read(id)).record;
    expect(faults(await change(id, { lines: [line(wrong)] }, 422))).toEqual([fault]);
    const { record, parts } = await read(id);
    expect(record.version).toBe(version);
    expect(parts?.lines).toMatchObject([{ quantity: 2, unitPrice: 15_050 }]);
  });

  it('go with their deal, which is what is said to be deleted', async () => {
    const { id } = await newDeal({ lines: [{ name: 'Buoy', quantity: 1, unitPrice: 100 }] });
    const { record } = await read(id);
    const { body } = await rep.against(record.version, 'delete', `/deals/${id}`).expect(200);
    expect(body).toMatchObject({ label: `Deleted deal “${String(record.name)}”` });
  });

  it('can be a thousand million of something, counted exactly', async () => {
    const { id } = await newDeal({
      valueFrom: 'lines',
      lines: [line({ quantity: 1e9, unitPrice: 8_999_999 })],
    });
    expect((await read(id)).record.value).toBe(8_999_999_000_000_000);
    const all = [line({ quantity: 1e9, unitPrice: 8_999_999 }), line({ quantity: 1e9, unitPrice: 2 })];
    expect(faults(await change(id, { lines: all }, 422))).toEqual([
      'lines: Lines: together they come to more than can be counted',
    ]);
  });

  it('are of products that are sold: one no longer sold stays where it is, by its name then', async () => {
    const product = await newProduct();
    const { id } = await newDeal({ lines: [{ product: product.id, quantity: 1, unitPrice: 5 }] });
    const put = async (body: object) => {
      const { record } = (await operations.call('get', `/products/${product.id}`).expect(200))
        .body as RecordAnswer;
      await operations.against(record.version, 'patch', `/products/${product.id}`, body).expect(200);
    };
    await put({ retired: true, name: 'Renamed since' });
    const [old] = (await read(id)).parts?.lines ?? [];
    expect(old.name).toBe(product.name);
    await change(id, { lines: [{ id: old.id, quantity: 4 }] });
    expect((await read(id)).parts?.lines).toMatchObject([{ product: product.id, quantity: 4, sum: 20 }]);
    const another = { product: product.id, quantity: 1, unitPrice: 5 };
    expect(faults(await change(id, { lines: [another] }, 422))).toEqual([
      'lines.0.product: Line 1: product: Renamed since is not sold any more',
    ]);
  });

  it('hold the value: it is not typed over, nor is the currency changed under them', async () => {
    const { id } = await newDeal({ valueFrom: 'lines', lines: [line()] });
    expect(faults(await change(id, { value: 1 }, 422))).toEqual([
      'value: Value: it comes from the lines. Change those, or say that it is typed in',
    ]);
    expect(faults(await change(id, { currency: 'EUR' }, 422))).toEqual([
      'currency: Currency: the lines are in GBP. Say what they cost in EUR with it',
    ]);
    await change(id, { currency: 'EUR', lines: [line({ unitPrice: 18_000 })] });
    expect((await read(id)).record).toMatchObject({ currency: 'EUR', value: 36_000 });
    const { id: bare } = await newDeal();
    expect(faults(await change(bare, { valueFrom: 'lines' }, 422))).toEqual([
      'valueFrom: Value from: the deal has no lines that it could come from',
    ]);
  });

  it('give way to a final value that differs when the deal is won', async () => {
    const { id } = await newDeal({ valueFrom: 'lines', lines: [line()] });
    const { version } = (await read(id)).record;
    await rep.against(version, 'post', `/deals/${id}/win`, { value: 29_000 }).expect(200);
    expect((await read(id)).record).toMatchObject({ value: 29_000, valueFrom: 'typed', linesValue: 30_100 });
    const { id: same } = await newDeal({ valueFrom: 'lines', lines: [line()] });
    await rep
      .against((await read(same)).record.version, 'post', `/deals/${same}/win`, { value: 30_100 })
      .expect(200);
    expect((await read(same)).record).toMatchObject({ value: 30_100, valueFrom: 'lines' });
  });

  it('can be asked: what was sold of each product, at the rate of the day its deal closed', async () => {
    const product = await newProduct();
    const { id } = await newDeal({
      currency: 'EUR',
      lines: [{ product: product.id, quantity: 2, unitPrice: 100_000 }],
    });
    await rep.against((await read(id)).record.version, 'post', `/deals/${id}/win`, {}).expect(200);
    const where = { field: 'product', is: 'anyOf' as const, value: [product.id] };
    const sold = {
      ...ask('dealLine', where),
      groups: [{ field: 'product' }, { field: 'deal.closedOn', by: 'year' as const }],
      measures: [
        { as: 'count' as const },
        { as: 'sum' as const, of: 'sum' },
        { as: 'sum' as const, of: 'quantity' },
      ],
    };
    const [row] = await rep.figures(sold);
    const value = {
      ...ask('deal', { field: 'id', is: 'is', value: id }),
      measures: [{ as: 'sum' as const, of: 'linesValue' }],
    };
    const [{ figures: whole }] = await rep.figures(value);
    expect(row.keys).toEqual([product.id, '2026-01-01']);
    expect(row.figures).toEqual([1, whole[0], 2]);
    expect(whole[0]).toBeGreaterThan(150_000);
    const deals = ask('deal', { related: 'dealLine.deal', where, is: 'atLeast', value: 1 });
    expect((await rep.records(deals)).rows.map((deal) => deal.id)).toEqual([id]);
  });
});

describe('a product', () => {
  it('has a code of its own, whatever its capitals, and is set up by those who may', async () => {
    const { code, name } = await newProduct();
    const twin = { code: String(code).toLowerCase(), name: 'Another', unitPrice: 1, currency: 'GBP' };
    const { body } = await operations.call('post', '/products', twin).expect(422);
    expect(faults(body as ProblemBody)).toEqual([`code: Code: ${String(name)} has it already`]);
    await rep.call('post', '/products', { ...twin, code: 'own' }).expect(403);
  });

  it('that lines name cannot be deleted, and can be retired', async () => {
    const product = await newProduct();
    await newDeal({ lines: [{ product: product.id, quantity: 1, unitPrice: 5 }] });
    await operations.against(product.version, 'delete', `/products/${product.id}`).expect(409);
    await operations
      .against(product.version, 'patch', `/products/${product.id}`, { retired: true })
      .expect(200);
  });
});

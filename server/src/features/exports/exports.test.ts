import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import { ask, plainDesign, readyMade, type Design } from '@zawn/core';
import { Caller, startServer, type TestServer, inBytes } from '../../testing';

let server: TestServer;
let manager: Caller;
let rep: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  manager = await Caller.signIn(server, 'maren.ollerby');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const binary = (caller: Caller, body: object) =>
  caller.call('post', '/exports', body).buffer().parse(inBytes);
const csv = async (caller: Caller, design: Design, more: object = {}) => {
  const { body } = await binary(caller, { design, format: 'csv', fields: 'shown', ...more }).expect(200);
  const { data } = Papa.parse<string[]>((body as Buffer).toString('utf8').replace(/^\uFEFF/, ''), {
    skipEmptyLines: true,
  });
  return { head: data[0], rows: data.slice(1) };
};
const made = (key: string) => readyMade.find((each) => each.key === key)?.design as Design;

describe('a file of a view', () => {
  it('has the columns on the screen, in their order, and every record', async () => {
    const design = made('all-deals');
    const { head, rows } = await csv(manager, {
      ...design,
      question: {
        ...design.question,
        columns: ['name', 'account.country', 'value', 'closeOn', 'tags', 'x_siteVisit'],
      },
    });
    expect(head).toEqual([
      'Name',
      'Account’s country',
      'Value',
      // An amount without its money says nothing.
      'Currency',
      'Close date',
      'Tags',
      'Site visited',
    ]);
    expect(rows).toHaveLength((await manager.records(ask('deal'), 1)).total);
    expect(rows[0][4]).toMatch(/^\d{4}-\d\d-\d\d$/);
    expect(rows.map((row) => row[4])).toEqual([...rows.map((row) => row[4])].sort());
  });

  it('has the groups of a grouped table first', async () => {
    const { head, rows } = await csv(manager, made('closing'));
    expect(head[0]).toBe('Close date');
    expect(rows.length).toBeGreaterThan(5);
  });

  it('has the figures of a drawing, as they are drawn', async () => {
    const { head, rows } = await csv(manager, made('stages-by-owner'));
    expect(head).toEqual(['Stage', 'Owner', 'Number of deals', 'Sum of value']);
    const figures = await manager.figures({
      ...made('stages-by-owner').question,
      measures: [{ as: 'sum', of: 'value' }],
    });
    expect(rows).toHaveLength(figures.length);
    const total = figures.reduce((sum, row) => sum + (row.figures[0] ?? 0), 0);
    expect(rows.reduce((sum, row) => sum + Number(row[3]), 0)).toBeCloseTo(total / 100, 2);
  });

  it('has all fields when those are asked for, the organisation’s own among them', async () => {
    const { head } = await csv(manager, made('all-accounts'), { fields: 'all' });
    expect(head).toEqual(
      expect.arrayContaining(['Zawn id', 'Stations in the field', 'Terrain', 'Created', 'List']),
    );
  });

  it('has only the marked rows when some are', async () => {
    const { rows: known } = await manager.records(ask('contact'), 3);
    const { rows } = await csv(manager, made('all-contacts'), {
      selection: { ids: known.map(({ id }) => id) },
    });
    expect(rows.map(([name]) => name).sort()).toEqual(known.map(({ name }) => String(name)).sort());
  });

  it('has typed cells as XLSX, and no text in it is a formula', async () => {
    const name = '=HYPERLINK("http://evil.example")';
    await manager
      .call('post', '/leads', {
        name,
        status: 'untouched',
        owner: manager.id,
        phone: '01632 960001',
        budget: 125_000,
        currency: 'GBP',
      })
      .expect(201);
    const design = plainDesign('lead', { field: 'name', is: 'startsWith', value: '=' });
    const wanted: Design = {
      ...design,
      question: { ...design.question, columns: ['name', 'phone', 'budget', 'createdAt'] },
    };
    const { body, headers } = await binary(manager, {
      design: wanted,
      format: 'xlsx',
      fields: 'shown',
    }).expect(200);
    expect((headers as Record<string, string>)['content-disposition']).toBe(
      'attachment; filename="leads.xlsx"',
    );
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(body as ExcelJS.Buffer);
    const cells = book.worksheets[0].getRow(2);
    expect([cells.getCell(1).value, cells.getCell(1).type]).toEqual([name, ExcelJS.ValueType.String]);
    expect(cells.getCell(2).value).toBe('+441632960001');
    expect(cells.getCell(3).value).toBe(1250);
    expect(cells.getCell(4).value).toBe('GBP');
    expect(cells.getCell(5).value).toEqual(new Date('2026-11-19T09:30:00Z'));
    const { rows } = await csv(manager, wanted);
    expect(rows[0].slice(0, 2)).toEqual([`'${name}`, "'+441632960001"]);
  });

  it('has contacts as cards', async () => {
    const { rows } = await manager.records(ask('contact', { field: 'account', is: 'isNotEmpty' }), 1);
    const { body } = await binary(manager, {
      design: made('all-contacts'),
      selection: { ids: [rows[0].id] },
      format: 'vcard',
      fields: 'all',
    }).expect(200);
    const text = (body as Buffer).toString('utf8');
    expect(text).toMatch(/^BEGIN:VCARD\r\nVERSION:4\.0\r\n/);
    expect(text).toContain(`FN:${String(rows[0].name)}`);
    expect(text.trimEnd().endsWith('END:VCARD')).toBe(true);
  });
});

describe('what may not be taken out', () => {
  it('is everything, for who has not the permission', async () => {
    const { body } = await rep
      .call('post', '/exports', { design: made('all-leads'), format: 'csv', fields: 'shown' })
      .expect(403);
    expect(body).toMatchObject({ type: '/problems/not-allowed' });
  });

  it('is what lies out of reach', async () => {
    const { rows } = await csv(manager, made('all-leads'), { fields: 'all' });
    const own = new Set((await manager.records(ask('lead'))).rows.map(({ id }) => String(id)));
    expect(rows.map(([id]) => id).every((id) => own.has(id))).toBe(true);
    const outsider = await Caller.signIn(server, 'conor.wansbeck');
    const [hidden] = (await outsider.records(ask('contact'), 1)).rows;
    const { rows: none } = await csv(manager, made('all-contacts'), { selection: { ids: [hidden.id] } });
    expect(none).toEqual([]);
  });

  it.each<[string, object]>([
    ['a design that is none', { design: {}, format: 'csv', fields: 'shown' }],
    ['an unknown format', { design: plainDesign('lead'), format: 'pdf', fields: 'shown' }],
    ['leads as cards', { design: plainDesign('lead'), format: 'vcard', fields: 'all' }],
  ])('%s is refused before the file begins', async (_, body) => {
    const answer = await manager.call('post', '/exports', body).expect(422);
    expect(answer.type).toBe('application/problem+json');
  });
});

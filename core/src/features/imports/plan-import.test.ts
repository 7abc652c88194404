import fc from 'fast-check';
import {
  guessSetup,
  keyText,
  planImport,
  readDelimited,
  readRows,
  refusedFile,
  setupFrom,
  wantedKeys,
  type ImportPlan,
  type ImportSetup,
  type ImportSurroundings,
  type KnownRecord,
  type OnFile,
  type TargetKey,
} from '.';
import { builtIn, type AnyRecord } from '../../kernel/catalogue';

const around: ImportSurroundings = {
  catalogue: builtIn,
  locale: { country: 'GB' },
  currency: 'GBP',
  named: {
    person: [
      { id: 1, name: 'Tamsin Rudd', email: 'tamsin@brackwater.example' },
      { id: 2, name: 'Ewan Castellin', email: 'ewan@brackwater.example' },
    ],
    pipeline: [
      { id: 1, name: 'Station sales' },
      { id: 2, name: 'Service renewals' },
    ],
    stage: [
      { id: 1, name: 'Enquiry checked', pipeline: 1 },
      { id: 7, name: 'Renewal due', pipeline: 2 },
    ],
  },
  owners: undefined,
  defaults: {
    lead: { owner: 1, status: 'untouched' },
    contact: { owner: 1 },
    account: { owner: 1 },
    deal: { owner: 1, pipeline: 1, stage: 1 },
    activity: { owner: 1, kind: 'task' },
  },
  today: '2026-11-19',
  timeZone: 'Europe/London',
};

/** What is on file, as a list. */
const fileOf = (
  known: Partial<Record<TargetKey, (Partial<AnyRecord> & { accountName?: string })[]>> = {},
): OnFile => ({
  find: (object, key, text) =>
    (known[object] ?? [])
      .filter((record) => keyText(key, record as never) === text)
      .map(({ accountName, ...record }): KnownRecord => ({ record: record as AnyRecord, accountName })),
});

const plan = (
  target: TargetKey,
  text: string,
  { onFile = fileOf(), change = {} }: { onFile?: OnFile; change?: Partial<ImportSetup> } = {},
): ImportPlan => {
  const table = readDelimited(text, { headingRow: 1 });
  const setup = { ...setupFrom(guessSetup(builtIn, target, table), target, 1), ...change };
  return planImport(readRows(table, setup, around), setup, onFile, around);
};

describe('a row', () => {
  it('becomes a lead, or is refused with the cell named; what is optional is left empty and noted', () => {
    const { create, refused, notes } = plan(
      'lead',
      'Name,E-Mail,Source,Owner\nRuna,Runa@Seagrave.example,Website,Ewan Castellin\n,x@y.example,,\nPer,per at home,Pigeon,Nobody\nEva,,Owl,\n',
    );
    expect(create.slice(0, 1)).toEqual([
      expect.objectContaining({
        row: 2,
        values: expect.objectContaining({
          name: 'Runa',
          email: 'runa@seagrave.example',
          source: 'website',
          owner: 2,
          status: 'untouched',
        }) as object,
      }),
    ]);
    expect(refused).toEqual([
      expect.objectContaining({ row: 4, column: 3, unknown: 'Nobody' }),
      expect.objectContaining({ row: 4, column: 1, reason: 'Email is not an email address' }),
      expect.objectContaining({ row: 4, column: 2, unknown: 'Pigeon', isLeftEmpty: true }),
      expect.objectContaining({ row: 3, column: null, reason: 'Name is missing' }),
    ]);
    expect(notes).toEqual([
      {
        row: 5,
        column: 2,
        reason: expect.stringMatching(/^Source: “Owl” is not one of .*; left empty$/) as string,
        unknown: 'Owl',
        isLeftEmpty: true,
      },
    ]);
  });

  it('is refused for what is optional where that is chosen, and kept for what is required', () => {
    const text = 'Name,Email,Source\nEva,eva at home,Owl\n';
    expect(plan('lead', text, { change: { bad: { source: 'refuse' } } }).refused).toHaveLength(2);
    const { create, notes } = plan('lead', text, { change: { bad: { email: 'empty' } } });
    expect(create[0].values).toMatchObject({ name: 'Eva', email: null, source: null });
    expect(notes.map(({ column }) => column)).toEqual([2, 1]);
  });

  it('with too many cells is refused: its values cannot be trusted to stand in the right column; a short one is filled up', () => {
    const { create, refused } = plan('lead', 'Name,City\nRuna,Seagrave\nPer\nEva,Tolmouth,extra\n');
    expect(create.map(({ values }) => [values.name, values.city])).toEqual([
      ['Runa', 'Seagrave'],
      ['Per', null],
    ]);
    expect(refused.map(({ row, reason }) => [row, reason])).toEqual([
      [4, expect.stringContaining('The row has 3 cells, the heading row 2')],
    ]);
  });

  it('says when a spreadsheet made a date of a number, and when decimals are mixed', () => {
    const { notes } = plan('lead', 'Name,Budget\nA,3-Apr\nB,"1.200,50"\nC,"1,200.50"\nD,9.5\n');
    expect(notes.map(({ row, reason }) => [row, reason])).toEqual([
      [2, expect.stringContaining('a spreadsheet may have turned one into it')],
      [3, expect.stringContaining('has its decimals behind a comma, unlike the rest of the file')],
    ]);
  });

  it('is helped by what a person says a text means, once for the whole file', () => {
    const meanings = { source: { 'pigeon post': 'referral', owl: null }, owner: { tam: 1 } };
    const { create, refused } = plan('lead', 'Name,Source,Owner\nA,Pigeon Post,Tam\nB,Owl,\n', {
      change: { meanings },
    });
    expect(refused).toEqual([]);
    expect(create.map(({ values }) => [values.source, values.owner])).toEqual([
      ['referral', 1],
      [null, 1],
    ]);
  });

  it('leaves the owner open where the rules decide, whoever the person may give records to', () => {
    const table = readDelimited('Name\nRuna\n', { headingRow: 1 });
    const setup = {
      ...setupFrom(guessSetup(builtIn, 'lead', table), 'lead', 1),
      owner: { by: 'rules' as const },
    };
    const byRules = {
      ...around,
      owners: [1],
      defaults: { ...around.defaults, lead: { status: 'untouched' } },
    };
    const { create, refused } = planImport(readRows(table, setup, byRules), setup, fileOf(), byRules);
    expect(refused).toEqual([]);
    expect(create[0].values.owner).toBeNull();
  });

  it('cannot make a lead converted, nor give it to someone out of reach', () => {
    expect(plan('lead', 'Name,Status\nA,Converted\n').refused[0].reason).toContain('by converting it');
    const table = readDelimited('Name,Owner\nA,Ewan Castellin\n', { headingRow: 1 });
    const setup = setupFrom(guessSetup(builtIn, 'lead', table), 'lead', 1);
    const mine = { ...around, owners: [1] };
    expect(planImport(readRows(table, setup, mine), setup, fileOf(), mine).refused[0].reason).toBe(
      'You cannot give records to this owner',
    );
  });
});

describe('a record that is there', () => {
  const runa = {
    id: 7,
    name: 'Runa Seagrave',
    email: 'runa@seagrave.example',
    organisation: 'Trust',
    city: 'Seagrave',
    tags: ['fair'],
    owner: 2,
    status: 'working',
  };
  const onFile = fileOf({ lead: [runa] });

  it('is recognised by email before name, and updated by what differs, its owner kept', () => {
    const { update } = plan('lead', 'Name,Mail,Town\nRuna S.,RUNA@seagrave.example,Tolmouth\n', { onFile });
    expect(update).toEqual([
      expect.objectContaining({ values: { name: 'Runa S.', city: 'Tolmouth' }, why: 'same email' }),
    ]);
  });

  it('keeps what an empty cell says nothing about, unless blanks are to clear', () => {
    const text = 'Name,Mail,Town\nRuna Seagrave,runa@seagrave.example,\n';
    expect(plan('lead', text, { onFile }).same).toHaveLength(1);
    expect(plan('lead', text, { onFile, change: { blanks: 'clear' } }).update[0].values).toEqual({
      city: null,
    });
  });

  it('takes several values beside its own, or instead of them', () => {
    const text = 'Name,Mail,Tags\nRuna Seagrave,runa@seagrave.example,"tender, fair"\n';
    expect(plan('lead', text, { onFile }).update[0].values).toEqual({ tags: ['fair', 'tender'] });
    const replaced = plan('lead', 'Mail,Tags\nruna@seagrave.example,tender\n', {
      onFile,
      change: { several: 'replace' },
    });
    expect(replaced.update[0].values).toEqual({ tags: ['tender'] });
  });

  it('is skipped, or made once more, when that is wanted', () => {
    const text = 'Name,Mail\nRuna,runa@seagrave.example\n';
    expect(plan('lead', text, { onFile, change: { onMatch: 'skip' } }).skipped).toEqual([
      { row: 2, id: 7, reason: 'runa@seagrave.example is there already, same email' },
    ]);
    expect(plan('lead', text, { onFile, change: { onMatch: 'create' } }).create).toHaveLength(1);
  });

  it('of the same name elsewhere is somebody else', () => {
    const { create, same } = plan(
      'lead',
      'Name,Organisation\nRuna Seagrave,Tolmouth Water\nRuna Seagrave,Trust\n',
      { onFile },
    );
    expect([create.length, same.length]).toEqual([1, 1]);
  });

  it('is left alone once it was converted', () => {
    const converted = fileOf({ lead: [{ ...runa, convertedAt: '2026-01-01T00:00:00.000Z' }] });
    expect(
      plan('lead', 'Name,Mail\nX,runa@seagrave.example\n', { onFile: converted }).skipped[0].reason,
    ).toContain('read-only');
  });
});

describe('rows that repeat each other', () => {
  it('are skipped after the first', () => {
    const { create, skipped } = plan(
      'lead',
      'Name,Mail\nRuna,r@s.example\nRuna S,R@S.example\nRuna,other@s.example\n',
    );
    expect(create.map(({ row }) => row)).toEqual([2, 4]);
    expect(skipped).toEqual([{ row: 3, reason: 'r@s.example stands in row 2 already' }]);
  });

  it('are told apart by name and organisation where they have no mail, also from rows that have one', () => {
    const { create, skipped } = plan(
      'lead',
      'Name,Mail,Company\nRuna,r@s.example,Trust\nRUNA,,trust\nRuna,,Harbour\nRuna,,Harbour\n',
    );
    expect(create.map(({ row }) => row)).toEqual([2, 4]);
    expect(skipped.map(({ row, reason }) => [row, reason])).toEqual([
      [3, 'RUNA stands in row 2 already'],
      [5, 'Runa stands in row 4 already'],
    ]);
  });
});

describe('people with their companies', () => {
  it('make each company once, filled in by later rows, and link to it', () => {
    const { create, others } = plan(
      'contact',
      'Name,Mail,Company,Website\nRuna,r@s.example,Seagrave Trust,\nPer,p@s.example,SEAGRAVE TRUST,seagrave.example\nEva,e@t.example,Tolmouth,\n',
    );
    expect(others.map(({ object, does, values }) => [object, does, values.name, values.domain])).toEqual([
      ['account', 'create', 'Seagrave Trust', 'seagrave.example'],
      ['account', 'create', 'Tolmouth', null],
    ]);
    expect(create.map(({ links }) => links.account)).toEqual([{ made: 0 }, { made: 0 }, { made: 1 }]);
  });

  it('link to the company that is on file, by its website before its name', () => {
    const onFile = fileOf({
      account: [{ id: 3, name: 'Harbour Trust', domain: 'seagrave.example', owner: 1 }],
    });
    const { create, others } = plan(
      'contact',
      'Name,Company,Website\nRuna,Seagrave Trust,www.seagrave.example\n',
      {
        onFile,
        change: { onMatch: 'skip' },
      },
    );
    expect([create[0].links, others]).toEqual([{ account: { id: 3 } }, []]);
  });

  it('of one name at two companies are two people', () => {
    const onFile = fileOf({ contact: [{ id: 5, name: 'Runa', accountName: 'Tolmouth', owner: 1 }] });
    expect(plan('contact', 'Name,Company\nRuna,Seagrave\n', { onFile }).create).toHaveLength(1);
    expect(plan('contact', 'Name,Company\nRuna,Tolmouth\n', { onFile }).create).toHaveLength(0);
  });
});

describe('deals', () => {
  it('come with account and contact, in the pipeline of their stage', () => {
    const { create, others } = plan(
      'deal',
      'Name,Value,Currency,Close date,Stage,Account,Contact,Contact mail\nGauges,"12,500",EUR,31.12.2026,Renewal due,Trust,Runa,r@s.example\n',
    );
    expect(create[0].values).toMatchObject({
      value: 1_250_000,
      currency: 'EUR',
      closeOn: '2026-12-31',
      stage: 7,
      pipeline: 2,
    });
    expect(create[0].links).toEqual({ account: { made: 0 }, contact: { made: 1 } });
    expect(others[1]).toMatchObject({ object: 'contact', links: { account: { made: 0 } } });
  });

  it('that were closed elsewhere come in closed, on the day they were to close unless the file says another', () => {
    const heads = 'Name,Value,Close date,Outcome,Closed on,Lost because\n';
    const { create, refused, notes } = plan(
      'deal',
      `${heads}A,5,2025-03-01,Won,,\nB,5,2025-03-01,Lost,2025-02-11,Price\nC,5,2027-03-01,Won,,\nD,5,2025-03-01,Open,,\n` +
        'E,5,2025-03-01,Lost,,\nF,5,2025-03-01,Won,2030-01-01,\nG,5,2025-03-01,Open,2025-03-01,\n',
    );
    expect(create.map(({ values }) => [values.name, values.outcome, values.closedOn ?? null])).toEqual([
      ['A', 'won', '2025-03-01'],
      ['B', 'lost', '2025-02-11'],
      ['C', 'won', '2026-11-19'],
      ['D', 'open', null],
      ['E', 'lost', '2025-03-01'],
    ]);
    // Nobody can be asked now: what is missing is said, and counted until it is there.
    expect(notes).toEqual([
      { row: 6, column: null, reason: 'Lost because is missing; Upkeep counts it until it is said' },
    ]);
    expect(refused.map(({ row, reason }) => [row, reason])).toEqual([
      [7, 'Closed on lies in the future'],
      [8, 'An open deal was not closed for any reason or on any day'],
    ]);
  });

  it('whose stage elsewhere says how they ended are closed, and stand in no such stage', () => {
    const { create, refused } = plan(
      'deal',
      'Name,Value,Close date,Stage,Lost because\n' +
        'A,5,2025-03-01,Closed Won,\nB,5,2025-03-01,Closed - Lost,Price\nC,5,2025-03-01,gewonnen,\n' +
        'D,5,2025-03-01,Perdu,Price\nE,5,2026-12-31,Won or lost,\nF,5,2026-12-31,Lostwithiel survey,\n',
    );
    expect(create.map(({ values }) => [values.name, values.outcome, values.stage])).toEqual([
      ['A', 'won', 1],
      ['B', 'lost', 1],
      ['C', 'won', 1],
      ['D', 'lost', 1],
    ]);
    // What means both, or is a name with such a word in it, is asked about.
    expect(refused.map(({ unknown }) => unknown)).toEqual(['Won or lost', 'Lostwithiel survey']);
  });

  it('whose own outcome is said as well have that one', () => {
    const { create } = plan(
      'deal',
      'Name,Value,Close date,Outcome,Stage,Lost because\nA,5,2025-03-01,Lost,Closed Won,Price\n',
    );
    expect(create[0].values).toMatchObject({ outcome: 'lost', stage: 1 });
  });

  it('that are closed on file are not opened or turned over by a file', () => {
    const known = {
      id: 9,
      name: 'Gauges',
      owner: 1,
      outcome: 'won',
      closedOn: '2025-03-01',
      closeOn: '2025-03-01',
    };
    const onFile = fileOf({ deal: [known] });
    const tell = (outcome: string) => plan('deal', `Name,Outcome\nGauges,${outcome}\n`, { onFile });
    expect(tell('Lost').refused[0].reason).toBe('Gauges is won already. Reopen it by hand first');
    expect(tell('Open').refused).toHaveLength(1);
    expect(tell('Won').same).toHaveLength(1);
    const open = fileOf({ deal: [{ ...known, outcome: 'open', closedOn: null }] });
    const { update } = plan('deal', 'Name,Outcome\nGauges,Won\n', { onFile: open });
    expect(update[0].values).toEqual({ outcome: 'won', closedOn: '2025-03-01' });
  });

  it('whose stage is left empty begin in the first one', () => {
    const { create, refused } = plan(
      'deal',
      'Name,Value,Close date,Stage\nGauges,5,2026-12-31,\nBuoys,5,2026-12-31,Nowhere\n',
    );
    expect(create.map(({ values }) => [values.name, values.stage, values.pipeline])).toEqual([
      ['Gauges', 1, 1],
    ]);
    expect(refused.map(({ row, unknown }) => [row, unknown])).toEqual([[3, 'Nowhere']]);
  });

  it('without a close date are refused', () => {
    expect(plan('deal', 'Name,Value\nGauges,5\n').refused.map(({ reason }) => reason)).toEqual([
      'Close date is missing',
    ]);
  });
});

describe('activities', () => {
  const onFile = fileOf({ deal: [{ id: 9, name: 'Gauges', number: 'D-1009', owner: 1 }] });
  it('hang on records that are on file, and are refused when there is none', () => {
    const { create, refused } = plan(
      'activity',
      'Subject,Due,Type,Deal\nRing,2026-12-01,Call,Gauges\nRing,2026-12-01,Call,Nowhere\n',
      { onFile },
    );
    expect(create[0]).toMatchObject({
      values: { kind: 'call', dueOn: '2026-12-01' },
      links: { deal: { id: 9 } },
    });
    expect(refused[0].reason).toBe('There is no deal “Nowhere” on file');
  });

  it('that were done keep when, and by whom', () => {
    const { create } = plan('activity', 'Subject,Done\nRing,2026-10-01 09:30\n');
    // Half past nine on the organisation’s clocks, an hour ahead of UTC in summer.
    expect(create[0].values).toMatchObject({
      doneAt: '2026-10-01T08:30:00.000Z',
      doneBy: 1,
      dueOn: '2026-10-01',
    });
  });

  it('say to the minute when they were done, on the organisation’s clocks or with an offset of their own', () => {
    const done = (text: string) => plan('activity', `Subject,Done\nRing,${text}\n`).create[0].values;
    expect(done('2026-10-01T09:30:00+04:00').doneAt).toBe('2026-10-01T05:30:00.000Z');
    expect(done('1.7.2026 00:20')).toMatchObject({ doneAt: '2026-06-30T23:20:00.000Z', dueOn: '2026-07-01' });
    expect(done('2026-12-01').doneAt).toBe('2026-12-01T12:00:00.000Z');
    const odd = plan('activity', 'Subject,Due,Done\nRing,2026-10-01,2026-10-01 25:70\n');
    expect(odd.notes[0].reason).toBe('Done: “2026-10-01 25:70” is not a date and time; left empty');
  });
});

describe('every import', () => {
  const cell = fc.constantFrom('', 'Runa', 'a@b.example', 'x at y', 'Website', '12', 'Per', 'B@b.example');
  const rows = fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 20 });
  const setup = {
    ...setupFrom(
      { columns: ['name', 'email', 'source'].map((value) => ({ value, sure: 1, why: '' })) },
      'lead',
      1,
    ),
  };
  const tableOf = (cells: string[][]) => ({
    ...readDelimited('Name,Mail,Source\nx,y,z'),
    rows: cells.map((each, index) => ({ row: index + 2, cells: each })),
  });

  it('accounts for each row exactly once, and does nothing the second time', () => {
    fc.assert(
      fc.property(rows, (cells) => {
        const table = tableOf(cells);
        const read = readRows(table, setup, around);
        const { create, update, same, skipped, refused } = planImport(read, setup, fileOf(), around);
        const seen = [...create, ...update, ...same, ...skipped].map(({ row }) => row);
        const all = [...seen, ...new Set(refused.map(({ row }) => row))];
        expect(all.sort((a, b) => a - b)).toEqual(table.rows.map(({ row }) => row));
        const made = create.map(
          ({ values }, index) => ({ id: index + 1, ...values }) as unknown as AnyRecord,
        );
        const again = planImport(read, setup, fileOf({ lead: made }), around);
        expect([again.create, again.update]).toEqual([[], []]);
      }),
      { numRuns: 300 },
    );
  });

  it('asks for every key that it will look for', () => {
    fc.assert(
      fc.property(rows, (cells) => {
        const read = readRows(tableOf(cells), setup, around);
        const wanted = wantedKeys(read, setup);
        planImport(
          read,
          setup,
          {
            find: (object, key, text) => {
              const asked = [...(wanted.get(object)?.get(key) ?? [])].map((value) =>
                keyText(key, { [key]: value }),
              );
              expect(asked).toContain(text);
              return [];
            },
          },
          around,
        );
      }),
    );
  });

  it('gives its refused rows back in the file’s own shape, safe for spreadsheets', () => {
    const table = readDelimited('Name;Source\n;Website\n=1+1;Pigeon\nRuna;Website\n');
    const own: ImportSetup = {
      ...setupFrom(guessSetup(builtIn, 'lead', table), 'lead', 1),
      bad: { source: 'refuse' },
    };
    const { refused } = planImport(readRows(table, own, around), own, fileOf(), around);
    expect(refusedFile(table, refused).split('\r\n')).toEqual([
      'Name;Source;Reason',
      ';Website;Name is missing',
      expect.stringMatching(/^"'=1\+1";Pigeon;/) as string,
    ]);
  });
});

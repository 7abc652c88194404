import {
  allOf,
  ask,
  readyReports,
  recordsBehind,
  type AnyRecord,
  type Condition,
  type MovementAnswer,
  type MovementPart,
  type ProgressAnswer,
  type RecordsAnswer,
  type Report,
  type ReportAnswer,
  type ReportDesign,
  type Written,
} from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { Organisation } from '../../kernel/organisation/organisation';
import { Caller, startServer, type TestServer, inBytes, PNG_OF_ONE_DOT } from '../../testing';

let server: TestServer;
let director: Caller;
let manager: Caller;
let rep: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  director = await Caller.signIn(server, 'signe.abernock');
  manager = await Caller.signIn(server, 'maren.ollerby');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const answerOf = async (design: ReportDesign, who = director): Promise<ReportAnswer> =>
  (await who.call('post', '/reports/answer', { design }).expect(200)).body as ReportAnswer;
const readyOf = (key: string): ReportDesign => {
  const found = readyReports.find((each) => each.key === key);
  if (!found) throw new Error(`No report ${key}`);
  return found.design;
};
const found = async (question: object, who = director): Promise<AnyRecord[]> =>
  ((await who.call('post', '/questions/records', { question, limit: 500 }).expect(200)).body as RecordsAnswer)
    .rows;

describe('ready-made reports', () => {
  it.each(readyReports.map(({ key }) => key))(
    '%s answers of the demo, every row with its records',
    async (key) => {
      const design = readyOf(key);
      const { rows, leftOut, splits } = await answerOf(design);
      expect(leftOut).toEqual([]);
      expect(rows.length).toBeGreaterThan(1);
      expect(rows[0].count).toBeGreaterThan(0);
      const context = await server.app.get(Gate).context({
        ...(await server.app.get(Organisation).actor(director.id))!,
      });
      for (const { keys, count, rest, split } of rows.filter((_, index) => index % 7 === 1 || index === 0)) {
        if (rest) continue;
        const behind = recordsBehind(design, context, { keys });
        const { body } = await director
          .call('post', '/questions/records', { question: behind, limit: 1 })
          .expect(200);
        expect([keys, (body as RecordsAnswer).total]).toEqual([keys, count]);
        expect(split?.length ?? 0).toBe(splits.length);
      }
    },
  );

  it('answers of nothing as well', async () => {
    const nothing = { field: 'name', is: 'is', value: 'No such thing' };
    for (const key of ['top-accounts', 'win-rate', 'won-against-last-year', 'products-sold']) {
      const design = readyOf(key);
      const { rows } = await answerOf({
        ...design,
        question: { ...design.question, where: nothing as Condition },
      });
      expect([key, rows[0].count, rows.filter(({ rest }) => rest !== undefined)]).toEqual([key, 0, []]);
    }
  });

  it('finds the first accounts of all of them, and puts all others together', async () => {
    const { rows } = await answerOf(readyOf('top-accounts'));
    const firsts = rows.filter(({ keys }) => keys.length === 1);
    const won = firsts.map(({ figures: [value] }) => Number(value));
    expect(won).toEqual([...won].sort((a, b) => b - a));
    const rest = rows.find((row) => row.rest !== undefined);
    expect(rest?.figures[0]).toBe(Number(rows[0].figures[0]) - won.reduce((sum, value) => sum + value, 0));
    expect(rest?.count).toBe(rows[0].count - firsts.reduce((sum, { count }) => sum + count, 0));
  });

  it('gives the win rate that the deals themselves give', async () => {
    const { rows, period } = await answerOf(readyOf('win-rate'));
    const deals = await found({
      ...ask(
        'deal',
        { field: 'outcome', is: 'anyOf', value: ['won', 'lost'] },
        { field: 'closedOn', is: 'after', value: '2026-03-31' },
      ),
    });
    expect(period).toEqual({ from: '2026-04-01', to: '2026-11-20' });
    for (const { keys, figures } of rows) {
      const own = deals.filter(({ owner }) => keys.length === 0 || owner === keys[0]);
      const won = own.filter(({ outcome }) => outcome === 'won').length;
      expect(figures.slice(0, 3)).toEqual([
        won,
        own.length - won,
        own.length === 0 ? null : won / own.length,
      ]);
    }
  });

  it('is of what one may see: a rep’s is of their own deals', async () => {
    const { rows } = await answerOf(readyOf('pipeline-by-stage'), rep);
    const own = await found(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }), rep);
    expect(rows[0].count).toBe(own.length);
    expect(rows.every(({ keys: [, owner] }) => owner === undefined || owner === rep.id)).toBe(true);
  });
});

describe('a report taken out', () => {
  const fileOf = async (format: string, more: object = {}, who = director) =>
    who
      .call('post', '/reports/file', {
        design: readyOf('won-by-source'),
        format,
        name: 'Won, by source',
        ...more,
      })
      .buffer()
      .parse(inBytes);

  it('is a workbook whose figures compute, with its drawing', async () => {
    const { default: excel } = await import('exceljs');
    const drawing = PNG_OF_ONE_DOT;
    const { body } = await fileOf('xlsx', { drawing, about: '=1+1' }).then((sent) => sent);
    const book = new excel.Workbook();
    await book.xlsx.load(body as Parameters<typeof book.xlsx.load>[0]);
    const answer = await answerOf(readyOf('won-by-source'));
    const figures = book.getWorksheet('Figures')!;
    expect(figures.getRow(1).values).toEqual([
      undefined,
      'Source',
      'Won',
      'Of all',
      'Deals',
      'Against last year',
    ]);
    const won = figures.getColumn(2).values.slice(2).map(Number);
    // Whole pounds and pence, as numbers that add up.
    expect(won.reduce((sum, value) => sum + value, 0)).toBeCloseTo(
      Number(answer.rows[0].figures[0]) / 100,
      6,
    );
    expect(figures.rowCount).toBe(answer.rows.length);
    const shown = book.getWorksheet('Report')!;
    expect(shown.getCell('A1').value).toBe('Won, by source');
    expect(shown.getCell('A2').value).toBe('=1+1');
    expect(shown.getImages()).toHaveLength(1);
  });

  it('is lines for other programs', async () => {
    const { body } = await fileOf('csv');
    const [head, ...lines] = (body as Buffer).toString('utf8').replace('\uFEFF', '').trim().split('\r\n');
    expect(head).toBe('Source,Won,Of all,Deals,Against last year');
    expect(lines.at(-1)).toMatch(/^All together,/);
  });

  it('is pages', async () => {
    const { body } = await fileOf('pdf', { drawing: PNG_OF_ONE_DOT });
    expect((body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    expect((body as Buffer).length).toBeGreaterThan(5000);
  });

  it('is refused with what is no drawing, to who may take nothing out, and where a part is gone', async () => {
    expect((await fileOf('pdf', { drawing: Buffer.from('<svg/>').toString('base64') })).status).toBe(422);
    expect((await fileOf('pdf', { drawing: PNG_OF_ONE_DOT.slice(0, 20) })).status).toBe(422);
    expect((await fileOf('docx')).status).toBe(422);
    const design = readyOf('won-by-source');
    const groups = [{ field: 'gone' }];
    const gone = { ...design, question: { ...design.question, groups } };
    expect((await fileOf('csv', { design: gone })).status).toBe(422);
    const reader = await Caller.signIn(server, 'tamsin.rudd');
    expect(
      (await fileOf('csv', { design: { ...design, question: ask('target') } }, reader)).status,
    ).toBeGreaterThan(399);
  });
});

describe('a report that is kept', () => {
  const keep = async (who: Caller, more: object = {}): Promise<Report> => {
    const design = readyOf('win-rate');
    const values = {
      name: 'Ours',
      object: 'deal',
      design: JSON.stringify(design),
      sharing: 'private',
      ...more,
    };
    return ((await who.call('post', '/reports', values).expect(201)).body as Written<Report>).value;
  };

  it('is its owner’s, its team’s or everyone’s', async () => {
    const sees = async (who: Caller, { id }: Report) =>
      (await found(ask('report', { field: 'id', is: 'is', value: id }), who)).length === 1;
    const [own, team, all] = [
      await keep(manager),
      await keep(manager, { sharing: 'team' }),
      await keep(manager, { sharing: 'everyone' }),
    ];
    expect(await Promise.all([own, team, all].map((each) => sees(rep, each)))).toEqual([false, true, true]);
    expect(await Promise.all([own, team, all].map((each) => sees(director, each)))).toEqual([
      false,
      false,
      true,
    ]);
    await rep.against(all.version, 'patch', `/reports/${all.id}`, { name: 'Mine now' }).expect(403);
  });

  it('is shared with certain teams, whichever its owner is in, and with none by mistake', async () => {
    const sees = async (who: Caller, { id }: Report) =>
      (await found(ask('report', { field: 'id', is: 'is', value: id }), who)).length === 1;
    const { rows: teams } = await director.records(ask('team'));
    const idOf = (name: RegExp) => String(teams.find((team) => name.test(String(team.name)))?.id);
    const uplands = await Caller.signIn(server, 'lars.westerholt');
    const rivers = await Caller.signIn(server, 'greta.lindqvell');
    const [coast, hills] = [idOf(/coast/i), idOf(/upland/i)];
    const report = await keep(manager, { sharing: 'teams', teams: [coast, hills] });
    expect(report.teams).toEqual([coast, hills]);
    const asked = [rep, uplands, rivers, director];
    expect(await Promise.all(asked.map((who) => sees(who, report)))).toEqual([true, true, false, false]);
    const change = (values: object) =>
      manager.against(report.version, 'patch', `/reports/${report.id}`, values);
    await change({ teams: [] }).expect(422);
    await change({ teams: ['99999'] }).expect(422);
    const { body } = await change({ sharing: 'private' }).expect(200);
    expect((body as Written<Report>).value).toMatchObject({ sharing: 'private', teams: null });
    expect(await sees(rep, report)).toBe(false);
  });

  it('is still answered and looked after when its owner has left', async () => {
    const owner = await Caller.signIn(server, 'greta.lindqvell');
    const report = await keep(owner, { sharing: 'everyone' });
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const of = { field: 'id', is: 'is', value: owner.id } as const;
    const [{ version }] = (await operations.records(ask('person', of))).rows;
    await operations.against(version, 'patch', `/people/${owner.id}`, { active: false }).expect(200);
    const [kept] = await found(ask('report', { field: 'id', is: 'is', value: report.id }), rep);
    expect(kept).toMatchObject({ name: 'Ours', owner: owner.id });
    expect(
      (await answerOf(JSON.parse(String(kept.design)) as ReportDesign, rep)).rows[0].count,
    ).toBeGreaterThan(0);
    await operations
      .against(report.version, 'patch', `/reports/${report.id}`, { name: 'Looked after' })
      .expect(200);
  });

  it('is changed, undone, and refused when somebody else changed it meanwhile', async () => {
    const report = await keep(manager);
    const { body } = await manager
      .against(report.version, 'patch', `/reports/${report.id}`, { name: 'Another name' })
      .expect(200);
    await manager.against(report.version, 'patch', `/reports/${report.id}`, { name: 'Late' }).expect(409);
    await manager.call('post', `/units/${(body as Written<Report>).unit}/undo`).expect(200);
    const [again] = await found(ask('report', { field: 'id', is: 'is', value: report.id }), manager);
    expect(again.name).toBe('Ours');
  });

  it('keeps nothing that is no report, and says what is wrong', async () => {
    const design = readyOf('win-rate');
    const asked = (wrong: object) => ({
      name: 'Wrong',
      object: 'deal',
      sharing: 'private',
      design: JSON.stringify({ ...design, ...wrong }),
    });
    for (const wrong of [
      { figures: [{ key: 'a', formula: 'a / 2' }] },
      { order: { figure: 'nothing' } },
      { question: ask('lead') },
      { draw: 'spirals' },
    ])
      await manager.call('post', '/reports', asked(wrong)).expect(422);
    const { body } = await manager
      .call('post', '/reports/answer', { design: { ...design, figures: [{ key: 'a', formula: '1 +' }] } })
      .expect(422);
    expect(JSON.stringify(body)).toContain('Something is missing at the end (at character 4)');
    for (const nothing of [null, 'x', 3, [], {}])
      await manager.call('post', '/reports/answer', { design: nothing }).expect(422);
  });
});

it('closed and needed say of everybody what the forecast says of them', async () => {
  const design = readyOf('closed-and-needed');
  const period = { unit: 'fiscalQuarter', offset: 0 };
  for (const who of [director, manager]) {
    const { rows } = await answerOf(design, who);
    const owners = rows.filter(({ keys }) => keys.length === 2);
    expect(owners.length).toBeGreaterThan(3);
    for (const { keys, figures } of [rows[0], ...owners]) {
      const owner = keys.length > 0 ? { owners: [keys[1]] } : {};
      const { body } = await who.call('post', '/forecast/progress', { period, ...owner }).expect(200);
      const { won, target, attainment, gap, open, coverage } = body as ProgressAnswer;
      const [ownWon, ownTarget, reached, needed, expected, cover] = figures;
      expect([ownWon, ownTarget || null, expected]).toEqual([won.value, target, open.value]);
      expect([reached, needed, cover]).toEqual([attainment, gap, coverage]);
    }
  }
});

describe('reports about what logs tell', () => {
  it.each(['stage-conversion', 'how-far-pushed'])(
    '%s is handed out by who hands out deals, and by nobody else',
    async (key) => {
      const asked = { design: readyOf(key), format: 'csv', name: key };
      await rep.call('post', '/reports/file', asked).expect(403);
      const { text } = await manager.call('post', '/reports/file', asked).expect(200);
      const { rows } = await answerOf(readyOf(key), manager);
      expect(text.trim().split('\n')).toHaveLength(rows.length + 1);
    },
  );
});

describe('how the pipeline moved', () => {
  const asked = { from: '2026-08-20', to: '2026-11-19' };
  const movement = async (more: object = {}, who = director): Promise<MovementAnswer> =>
    (await who.call('post', '/reports/movement', { ...asked, ...more }).expect(200)).body as MovementAnswer;
  const comesTo = ({ start, steps }: MovementPart) =>
    Object.values(steps).reduce((sum, { value }) => sum + value, start.value);

  it('adds up, altogether and for each owner, to what is open today', async () => {
    const { all, groups } = await movement({ by: 'owner' });
    const open = await answerOf({
      ...readyOf('pipeline-by-stage'),
      question: {
        ...ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }),
        groups: [{ field: 'owner' }],
      },
    });
    expect(comesTo(all)).toBe(all.end.value);
    expect(all.end).toEqual({ value: open.rows[0].figures[1], count: open.rows[0].count });
    for (const group of groups) {
      expect(comesTo(group)).toBe(group.end.value);
      const row = open.rows.find(({ keys }) => keys[0] === group.key);
      expect(group.end.count).toBe(row?.count ?? 0);
    }
    expect(all.steps.won.count).toBeGreaterThan(3);
    expect(all.start.count).toBeGreaterThan(10);
  });

  it('is told by team as well, which comes to the same', async () => {
    const { all, groups } = await movement({ by: 'team' });
    expect(groups.length).toBeGreaterThan(2);
    expect(groups.reduce((sum, { end }) => sum + end.value, 0)).toBe(all.end.value);
    expect(groups.reduce((sum, { start }) => sum + start.count, 0)).toBe(all.start.count);
    const coast = groups.find(({ key }) => key === manager.session.me.team);
    const own = await movement({}, manager);
    expect(coast?.end).toEqual(own.all.end);
  });

  it('won and lost as many as were', async () => {
    const { all } = await movement();
    for (const outcome of ['won', 'lost'] as const) {
      const ended = await found(
        ask(
          'deal',
          { field: 'outcome', is: 'anyOf', value: [outcome] },
          { field: 'closedOn', is: 'between', value: [asked.from, asked.to] },
        ),
      );
      // What was made and ended within the period came and went; none of the demo’s ends twice.
      expect(all.steps[outcome].count).toBe(ended.length);
    }
  });

  it('is of those one sees, and of what one asks for', async () => {
    const own = await movement({}, rep);
    const whole = await movement({ where: { field: 'owner', is: 'anyOf', value: [rep.id] } });
    expect(own.all.end).toEqual(whole.all.end);
    expect(own.all.end.count).toBeLessThan((await movement()).all.end.count);
  });

  it('tells a push with its days and its author, and a hand-over between owners', async () => {
    const [deal] = await found(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }));
    const pushed = await director
      .against(deal.version, 'patch', `/deals/${deal.id}`, { closeOn: '2027-06-30' })
      .expect(200);
    const { version } = (pushed.body as Written<AnyRecord>).value;
    await director.against(version, 'patch', `/deals/${deal.id}`, { owner: director.id }).expect(200);
    const where = { field: 'closeOn', is: 'before', value: '2027-03-01' };
    const { steps } = (await movement({ where })).all;
    expect(steps.pushedOut.entries.find((entry) => entry.deal === deal.id)).toMatchObject({
      from: deal.closeOn,
      to: '2027-06-30',
      person: director.id,
    });
    const { groups } = await movement({ by: 'owner' });
    const inTo = groups.find(({ key }) => key === director.id);
    expect(inTo?.steps.handedIn.entries.map((entry) => entry.deal)).toContain(deal.id);
    const outOf = groups.find(({ key }) => key === deal.owner);
    expect(outOf?.steps.handedOut.entries.map((entry) => entry.deal)).toContain(deal.id);
  });

  it('stood at any moment as it was found then', async () => {
    // What is open at the end of each day is what a movement that ends there says, whatever came later.
    const { all: whole } = await movement();
    const { all: until } = await movement({ to: '2026-10-01' });
    const { all: since } = await movement({ from: '2026-10-02' });
    expect(until.end.count).toBe(since.start.count);
    expect(until.start.count).toBe(whole.start.count);
    expect(since.end.count).toBe(whole.end.count);
  });

  it('begins and ends with what a question about those days finds, by month as well', async () => {
    const stood = async (asOf: string, where?: Condition) => {
      const open = { field: 'outcome', is: 'anyOf', value: ['open'] } as const;
      const design = { ...readyOf('pipeline-by-stage') };
      design.question = { ...ask('deal', allOf(where, open)), groups: [], asOf };
      const [{ count, figures }] = (await answerOf(design)).rows;
      return { value: figures[1], count };
    };
    // By its own field, the organisation’s own field, and a rate that changes.
    for (const where of [
      undefined,
      { field: 'x_siteVisit', is: 'is', value: true },
      { field: 'currency', is: 'noneOf', value: ['GBP'] },
      { field: 'value', is: 'atLeast', value: 2_000_000 },
    ] as const) {
      const { all, groups } = await movement({ where, to: '2026-11-10', by: 'month' });
      expect(groups.map(({ key }) => key)).toEqual(['2026-08-01', '2026-09-01', '2026-10-01', '2026-11-01']);
      const ends = ['2026-08-31', '2026-09-30', '2026-10-31', '2026-11-10'];
      expect(all.start).toEqual(await stood('2026-08-19', where));
      for (const [index, group] of groups.entries()) {
        expect(comesTo(group)).toBe(group.end.value);
        expect(group.end).toEqual(await stood(ends[index], where));
        if (index > 0) expect(group.start).toEqual(groups[index - 1].end);
      }
      expect(all.end).toEqual(groups.at(-1)?.end);
      expect(comesTo(all)).toBe(all.end.value);
    }
    expect((await movement({ by: 'month' })).all.steps.currency.count).toBeGreaterThan(0);
  });

  it('judges what the log does not tell as it is today, and says so', async () => {
    const conditions = [
      { field: 'account.country', is: 'anyOf', value: ['GB'] },
      { field: 'needsAttention', is: 'is', value: true },
      { related: 'activity.deal', is: 'atLeast', value: 3 },
    ] as const;
    for (const part of conditions) {
      const where = {
        join: 'all',
        of: [part, { join: 'none', of: [{ field: 'value', is: 'below', value: 0 }] }],
      };
      const [{ all, asToday }, whole] = [await movement({ where }), await movement()];
      expect(asToday).toEqual([part]);
      const meet = new Set((await found(ask('deal', part))).map(({ id }) => id));
      const now = await found(ask('deal', part, { field: 'outcome', is: 'anyOf', value: ['open'] }));
      expect([all.end.count, comesTo(all)]).toEqual([now.length, all.end.value]);
      expect(all.end.count).toBeLessThan(whole.all.end.count);
      for (const step of ['created', 'lost'] as const) {
        const named = (of: MovementPart) => of.steps[step].entries.map(({ deal }) => deal);
        expect(named(all).sort()).toEqual(
          named(whole.all)
            .filter((deal) => meet.has(deal))
            .sort(),
        );
      }
    }
    expect((await movement()).asToday).toEqual([]);
  });

  it('is refused where it cannot be told', async () => {
    const refused = async (more: object) =>
      JSON.stringify(
        (await director.call('post', '/reports/movement', { ...asked, ...more }).expect(422)).body,
      );
    expect(await refused({ where: { field: 'margin', is: 'atLeast', value: 1 } })).toContain('margin');
    expect(await refused({ where: { field: 'lists', is: 'anyOf', value: [99_999] } })).toContain('is gone');
    const average = { field: 'value', is: 'above', value: { figure: 'average' } };
    expect(await refused({ where: average })).toContain('one deal by itself');
    expect(await refused({ from: '2026-11-20' })).toContain('The last day lies before the first');
    expect(await refused({ to: '2026-12-01' })).toContain('lies in the future');
    expect(await refused({ from: 'yesterday' })).toContain('This is no day');
    await refused({ by: 'name' });
  });

  it('tells nothing of what is hidden: neither the value, nor the groups of a field', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const [role] = (await operations.records(ask('role', { field: 'name', is: 'is', value: 'Rep' }))).rows;
    const fields = [{ object: 'deal', field: 'source', may: 'nothing' }];
    const given = await operations
      .against(role.version, 'patch', `/roles/${role.id}`, { rules: JSON.stringify({ fields }) })
      .expect(200);
    await rep.call('post', '/reports/movement', { ...asked, by: 'source' }).expect(422);
    const where = { field: 'source', is: 'anyOf', value: ['fair'] };
    await rep.call('post', '/reports/movement', { ...asked, where }).expect(422);
    expect((await movement({ by: 'stage' }, rep)).groups.length).toBeGreaterThan(1);
    await operations.call('post', `/units/${(given.body as Written<unknown>).unit}/undo`).expect(200);
    expect((await movement({ by: 'source' }, rep)).groups.length).toBeGreaterThan(1);
  });

  it('is the same whatever is done after its last day', async () => {
    const asking = { to: '2026-11-12', by: 'month' };
    const { all, groups } = await movement(asking);
    const named = (part: MovementPart) => part.steps.created.entries.map((entry) => entry.deal);
    const open = { field: 'outcome', is: 'anyOf', value: ['open'] } as const;
    const stoodThen = { field: 'createdAt', is: 'before', value: '2026-08-20' } as const;
    const isTyped = { field: 'linesValue', is: 'isEmpty' } as const;
    const [cut, gone] = await found(ask('deal', open, stoodThen, isTyped));
    await director.against(cut.version, 'patch', `/deals/${cut.id}`, { value: 1 }).expect(200);
    await director.against(gone.version, 'delete', `/deals/${gone.id}`).expect(200);
    for (const isDeleted of [false, true]) {
      const { pipeline, stage, owner, currency, closeOn } = cut;
      const deal = { name: 'Late gauge', value: 50_000, pipeline, stage, owner, currency, closeOn };
      const { body } = await director.call('post', '/deals', deal).expect(201);
      const { value } = body as Written<AnyRecord>;
      if (isDeleted) await director.against(value.version, 'delete', `/deals/${value.id}`).expect(200);
    }
    const later = await movement(asking);
    expect(later.all).toEqual(all);
    expect(later.groups).toEqual(groups);
    expect(named(all).length).toBeGreaterThan(1);
    // They are in the movement of the days in which it was done.
    const { steps } = (await movement({ from: '2026-11-13' })).all;
    expect(steps.cut.entries.map((entry) => entry.deal)).toContain(cut.id);
    expect(steps.deleted.entries.map((entry) => entry.deal)).toContain(gone.id);
  });
});

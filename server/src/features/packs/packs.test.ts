import {
  packDesignOf,
  readyDashboards,
  readyPacks,
  type Actor,
  type AnyRecord,
  type Folder,
  type FrozenAnswer,
  type FrozenPackAnswer,
  type Pack,
  type ProgressAnswer,
  type ReportAnswer,
  type ReportDesign,
  type Usage,
  type Written,
} from '@zawn/core';
import { Caller, detailOf, startServer, type TestServer, inBytes, PNG_OF_ONE_DOT } from '../../testing';
import { Organisation } from '../../kernel/organisation/organisation';
import { LivePrint } from './live-print';

let server: TestServer;
let manager: Caller;
let rep: Caller;
let far: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  manager = await Caller.signIn(server, 'maren.ollerby');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  far = await Caller.signIn(server, 'lars.westerholt');
});
afterAll(() => server.close());

const [monthly] = readyPacks;
const counted: ReportDesign = {
  version: 1,
  question: { version: 1, object: 'deal', groups: [{ field: 'owner' }] },
  figures: [{ key: 'a', measure: { as: 'count' } }],
  draw: 'bars',
};
const designWith = (...pages: object[]) => JSON.stringify({ version: 1, pages });
const note = (key: string, text = 'Talk about the harbour') => ({ key, kind: 'note', text });

async function made(who: Caller, more: object = {}): Promise<Pack> {
  const body = { name: 'November', sharing: 'private', design: JSON.stringify(monthly.design), ...more };
  const answer = await who.call('post', '/packs', body).expect(201);
  return (answer.body as Written<Pack>).value;
}
const kept = async (who: Caller, { id }: { id: number }): Promise<Pack> =>
  ((await who.call('get', `/packs/${id}`).expect(200)).body as { record: Pack }).record;
const folderOf = async (who: Caller, more: object = {}): Promise<Folder> => {
  const answer = await who
    .call('post', '/folders', { name: 'Meetings', sharing: 'private', ...more })
    .expect(201);
  return (answer.body as Written<Folder>).value;
};
const noted = async (who: Caller, pack: Pack, body: object): Promise<AnyRecord> =>
  ((await who.call('post', `/packs/${pack.id}/notes`, body).expect(201)).body as Written<AnyRecord>).value;
const oneDeal = async (who: Caller): Promise<AnyRecord> => {
  const question = { version: 1, object: 'deal', where: { field: 'owner', is: 'anyOf', value: [who.id] } };
  const { body } = await who
    .call('post', '/questions/records', { question, offset: 0, limit: 1 })
    .expect(200);
  return (body as { rows: AnyRecord[] }).rows[0];
};

describe('a meeting pack', () => {
  it('is kept as it is when it begins with the ready-made one', async () => {
    const pack = await made(manager);
    expect(packDesignOf(pack)?.pages).toEqual(monthly.design.pages);
    await far.call('get', `/packs/${pack.id}`).expect(404);
  });

  it('is refused with what is wrong with its pages, and the place', async () => {
    const wrong: [pages: object[], place: string, message: string][] = [
      [[{ key: 'a', kind: 'song' }], 'design.pages.0', 'no such kind'],
      [[{ key: 'a', kind: 'report', ready: 'nowhere' }], 'design.pages.0.ready', 'no such page'],
      [[note('a'), note('a')], 'design.pages', 'same key'],
      [[{ key: 'a', kind: 'report', design: { ...counted, figures: [] } }], 'design.pages.0', ''],
      [Array.from({ length: 41 }, (_, at) => note(`n${at}`)), 'design.pages', 'at most 40 pages'],
      [[note('a', '')], 'design.pages.0.text', ''],
    ];
    for (const [pages, place, message] of wrong) {
      const body = { name: 'Bad', sharing: 'private', design: designWith(...pages) };
      const answer = await manager.call('post', '/packs', body).expect(422);
      const { faults } = answer.body as { faults: { field: string; message: string }[] };
      expect(faults.some(({ field }) => field.startsWith(place))).toBe(true);
      expect(detailOf(answer)).toContain(message);
    }
  });

  it('is named by a report that is about to be deleted, and shows another one instead', async () => {
    const body = { name: 'Deals', object: 'deal', sharing: 'everyone', design: JSON.stringify(counted) };
    const { id } = (
      (await manager.call('post', '/reports', body).expect(201)).body as Written<{ id: number }>
    ).value;
    const pack = await made(manager, {
      design: designWith({ key: 'r', kind: 'report', report: id }, note('n')),
    });
    const { shownOn } = (await manager.call('get', `/reports/${id}/usage`).expect(200)).body as Usage;
    expect(shownOn).toEqual([{ name: 'the meeting pack “November”', mayChange: true }]);
    const instead = { of: { report: id }, instead: { ready: 'win-rate' } };
    await manager.call('post', '/usage/instead', instead).expect(200);
    const [page] = packDesignOf(await kept(manager, pack))?.pages ?? [];
    expect(page).toEqual({ key: 'r', kind: 'report', ready: 'win-rate' });
  });

  it('is named by a dashboard and by a snapshot as well, and shows another of their kind instead', async () => {
    const madeIn = async (path: string, body: object) =>
      ((await manager.call('post', path, body).expect(201)).body as Written<{ id: number }>).value.id;
    const design = JSON.stringify({ version: 1, tiles: [] });
    const dashboard = await madeIn('/dashboards', { name: 'Ours', sharing: 'everyone', design });
    const folder = await madeIn('/folders', { name: 'Months', sharing: 'everyone' });
    const freeze = { design: counted, folder, seenBy: 'each' };
    const [snapshot, other] = [
      await madeIn('/snapshots/freeze', { ...freeze, name: 'October' }),
      await madeIn('/snapshots/freeze', { ...freeze, name: 'November' }),
    ];
    const pack = await made(manager, {
      design: designWith(
        { key: 'd', kind: 'dashboard', dashboard },
        { key: 's', kind: 'snapshot', snapshot, title: 'As it was' },
      ),
    });
    await rep.call('patch', '/preferences', { home: String(dashboard) }).expect(200);
    const usage = async (path: string) =>
      (await manager.call('get', `${path}/usage`).expect(200)).body as Usage;
    const shownOn = [{ name: 'the meeting pack “November”', mayChange: true }];
    expect(await usage(`/dashboards/${dashboard}`)).toEqual({ people: ['Tamsin Rudd'], views: [], shownOn });
    expect(await usage(`/snapshots/${snapshot}`)).toEqual({ people: [], views: [], shownOn });
    await rep.call('patch', '/preferences', { home: null }).expect(200);
    const instead = (of: object, by: object, status: number) =>
      manager.call('post', '/usage/instead', { of, instead: by }).expect(status);
    await instead({ dashboard }, { snapshot }, 422);
    await instead({ snapshot }, { ready: 'win-rate' }, 422);
    await instead({ snapshot }, { snapshot: 999_999 }, 404);
    await instead({ dashboard }, { ready: readyDashboards[0].key }, 200);
    await instead({ snapshot }, { snapshot: other }, 200);
    expect(packDesignOf(await kept(manager, pack))?.pages).toEqual([
      { key: 'd', kind: 'dashboard', ready: readyDashboards[0].key },
      { key: 's', kind: 'snapshot', snapshot: other, title: 'As it was' },
    ]);
  });
});

describe('what is noted in a meeting', () => {
  it('is a follow-up on the record that is shown, of whoever is to do it, and undone in one step', async () => {
    const pack = await made(manager);
    const deal = await oneDeal(rep);
    const followUp = {
      kind: 'followUp',
      text: 'Ask why the date moved',
      on: { object: 'deal', id: deal.id },
      dueOn: '2026-11-24',
      owner: rep.id,
    };
    const answer = await manager.call('post', `/packs/${pack.id}/notes`, followUp).expect(201);
    const { value, unit, label } = answer.body as Written<AnyRecord>;
    expect(value).toMatchObject({
      deal: deal.id,
      owner: rep.id,
      dueOn: '2026-11-24',
      pack: pack.id,
      doneAt: null,
    });
    expect(label).toBe('Follow-up: “Ask why the date moved”');
    await manager.call('post', `/units/${unit}/undo`).expect(200);
    await manager.call('get', `/activities/${value.id}`).expect(404);
  });

  it('is a decision, which is done with being said', async () => {
    const pack = await made(manager);
    const decision = await noted(manager, pack, { kind: 'decision', text: 'No further discount' });
    expect(decision).toMatchObject({ kind: 'decision', doneBy: manager.id, pack: pack.id });
    expect(decision.doneAt).toBe(decision.createdAt);
  });

  it('is refused on what one does not see, without a word, and in a pack that is not shared with one', async () => {
    const pack = await made(manager);
    const deal = await oneDeal(far);
    const on = { object: 'deal', id: deal.id };
    await manager.call('post', `/packs/${pack.id}/notes`, { kind: 'decision', text: 'Peek', on }).expect(422);
    await manager.call('post', `/packs/${pack.id}/notes`, { kind: 'decision', text: ' ' }).expect(422);
    await far.call('post', `/packs/${pack.id}/notes`, { kind: 'decision', text: 'Mine' }).expect(404);
  });
});

describe('a pack that is frozen', () => {
  it('shows what the meeting saw, and the next one is live again with last time’s decisions', async () => {
    const design = { ...monthly.design, choice: { team: 2 } };
    const pack = await made(manager, { design: JSON.stringify(design) });
    const { id: folder } = await folderOf(manager);
    const answer = await manager
      .call('post', `/packs/${pack.id}/freeze`, { folder, seenBy: 'each' })
      .expect(201);
    const { value } = answer.body as Written<FrozenPackAnswer>;
    expect(value.frozen).toBe(monthly.design.pages.length);
    const pages = packDesignOf(value.pack)?.pages ?? [];
    expect(pages.map(({ kind }) => kind)).toEqual(monthly.design.pages.map(() => 'snapshot'));
    expect(pages.map(({ title }) => title)).toEqual(monthly.design.pages.map(({ title }) => title));
    const [first] = pages;
    const frozen = (
      await manager
        .call('get', `/snapshots/${first.kind === 'snapshot' ? first.snapshot : 0}/frozen`)
        .expect(200)
    ).body as FrozenAnswer;
    const live = (await manager.call('post', '/reports/answer', { design: frozen.design }).expect(200))
      .body as ReportAnswer;
    expect(frozen.answer?.rows).toEqual(live.rows);
    await manager.call('post', `/packs/${pack.id}/freeze`, { folder, seenBy: 'each' }).expect(409);

    await noted(manager, pack, { kind: 'decision', text: 'Go for the harbour' });
    const made2 = await manager
      .call('post', `/packs/${pack.id}/next`, { name: 'December', meetsOn: '2026-12-17' })
      .expect(201);
    const next = (made2.body as Written<Pack>).value;
    expect(next).toMatchObject({ previous: pack.id, meetsOn: '2026-12-17', sharing: 'private' });
    expect(packDesignOf(next)).toEqual(design);
  });

  it('stays as it was when one of its reports cannot be frozen', async () => {
    const gone = { ...counted, question: { ...counted.question, groups: [{ field: 'owner' }] } };
    const pack = await made(manager, {
      design: designWith({ key: 'a', kind: 'report', design: gone }, note('n')),
    });
    await manager.call('post', `/packs/${pack.id}/freeze`, { folder: 9999, seenBy: 'each' }).expect(404);
    expect(packDesignOf(await kept(manager, pack))?.pages[0].kind).toBe('report');
  });
});

describe('a printed pack', () => {
  /** How many pages the PDF of a pack with these pages has. */
  const pagesOf = async (who: Caller, pack: Pack): Promise<number> => {
    const answer = await who.call('post', `/packs/${pack.id}/file`, {}).buffer().parse(inBytes).expect(200);
    const pdf = (answer.body as Buffer).toString('latin1');
    expect(pdf.startsWith('%PDF')).toBe(true);
    return pdf.match(/\/Type \/Page\b/g)?.length ?? 0;
  };

  it('is one PDF with a page for each of its own, also of one that is gone', async () => {
    const pack = await made(manager, {
      design: designWith(
        { key: 'a', kind: 'report', ready: 'win-rate' },
        { key: 'b', kind: 'report', report: 99_999 },
        { key: 'c', kind: 'snapshot', snapshot: 99_999 },
        { key: 'd', kind: 'dashboard', dashboard: 99_999 },
        note('e'),
      ),
    });
    await noted(manager, pack, { kind: 'decision', text: 'Print it' });
    // A title page with the contents, five pages of its own, and what was decided.
    expect(await pagesOf(manager, pack)).toBe(7);
    await manager.call('post', `/packs/${pack.id}/file`, { drawings: { a: 'bm8=' } }).expect(422);
  });

  it('has the reports of a dashboard below each other', async () => {
    const pack = await made(manager, {
      design: designWith({ key: 'd', kind: 'dashboard', ready: 'the-team' }),
    });
    expect(await pagesOf(manager, pack)).toBeGreaterThan(3);
  });

  it('has the drawings of a dashboard’s tiles, its lists and how things stand, and says what was not drawn', async () => {
    const at = { x: 0, y: 0, w: 6, h: 4 };
    const tiles = [
      { key: 'a', kind: 'report', ready: 'win-rate', at },
      { key: 'b', kind: 'movement', at: { ...at, y: 4 } },
      { key: 'c', kind: 'list', ready: 'adrift', at: { ...at, y: 8 } },
      { key: 'e', kind: 'list', view: 99_999, at: { ...at, y: 12 } },
      { key: 'f', kind: 'upkeep', at: { ...at, y: 16 } },
      { key: 'g', kind: 'waterline', at: { ...at, y: 20 } },
      { key: 'h', kind: 'movement', at: { ...at, y: 24 } },
    ];
    const board = { name: 'Whole', sharing: 'private', design: JSON.stringify({ version: 1, tiles }) };
    const { body } = await manager.call('post', '/dashboards', board).expect(201);
    const dashboard = (body as Written<{ id: number }>).value.id;
    const pack = await made(manager, { design: designWith({ key: 'd', kind: 'dashboard', dashboard }) });
    const period = { unit: 'fiscalQuarter', offset: 0 };
    const progress = (await manager.call('post', '/forecast/progress', { period }).expect(200))
      .body as ProgressAnswer;
    const live = server.app.get(LivePrint);
    const drawings = { 'd.a': PNG_OF_ONE_DOT, 'd.b': PNG_OF_ONE_DOT };
    const actor = (await server.app.get(Organisation).actor(manager.id)) as Actor;
    const printed = JSON.stringify(
      await live.dashboard(actor, { key: 'd', kind: 'dashboard', dashboard }, undefined, drawings),
    );
    expect(printed.split(PNG_OF_ONE_DOT)).toHaveLength(3);
    expect(printed).toMatch(/\d+ deals?(, the first 25)?"/);
    expect(printed).toContain('is not there, or not yours to see');
    expect(printed).toContain('One more tile is looked at on the screen.');
    expect(printed).toMatch(/\d+% ready for reports/);
    const pounds = (minor: number) => `£${Math.round(minor / 100).toLocaleString('en-GB')}`;
    const { won, target, open } = progress;
    expect(won.value).toBeGreaterThan(0);
    for (const amount of [won.value, target ?? 0, open.value, open.weighted])
      expect(printed).toContain(`"${pounds(amount)}"`);
    // Drawings of many pages are more than any other request sends.
    const many = Object.fromEntries(['x', 'y', 'z'].map((key) => [key, 'A'.repeat(2_400_000)]));
    await manager.call('post', `/packs/${pack.id}/file`, { drawings: { ...drawings, ...many } }).expect(200);
  });

  it('goes out only to whoever may take records out', async () => {
    const theirs = await made(rep, { design: designWith(note('a')) });
    await rep.call('post', `/packs/${theirs.id}/file`, {}).expect(403);
  });
});

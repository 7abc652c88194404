import { builtIn } from '../../kernel/catalogue';
import { ME } from '../../kernel/questions';
import { knownReport } from '../reports';
import { checkReport } from '../reports/report-schema';
import { type ReportDesign } from '../reports/report';
import { readyReports } from '../reports/ready-made';
import { checkDashboard } from './dashboard-schema';
import {
  arrangedTogether,
  changedTile,
  dashboardDesignOf,
  freePlace,
  freeTileKey,
  MOST_TILES,
  narrowedReport,
  narrowedTo,
  readByReport,
  readyDashboards,
  showingInstead,
  shownReport,
  tilesShowing,
  TILE_COLUMNS,
  type DashboardDesign,
  type Tile,
} from '.';

const teams = [
  { id: 1, parent: null },
  { id: 2, parent: 1 },
  { id: 3, parent: 2 },
  { id: 4, parent: null },
];
const context = { catalogue: builtIn, teams };
const at = { x: 0, y: 0, w: 4, h: 4 };
const tile = (key: string, more: object = {}): Tile => ({ key, kind: 'note', text: key, at, ...more });
const ready = (key: string): ReportDesign => {
  const found = readyReports.find((each) => each.key === key);
  if (!found) throw new Error(key);
  return found.design;
};

describe('what is chosen for all tiles', () => {
  it('narrows records to the people of a team and those below it, a person, and a pipeline', () => {
    expect(narrowedTo('deal', { team: 1, person: ME, pipeline: 7 }, context)).toEqual({
      asked: {
        join: 'all',
        of: [
          { field: 'owner.team', is: 'anyOf', value: [1, 2, 3] },
          { field: 'owner', is: 'anyOf', value: [ME] },
          { field: 'pipeline', is: 'anyOf', value: [7] },
        ],
      },
      ignored: [],
    });
  });

  it('reaches what is part of a deal by the deal', () => {
    expect(narrowedTo('dealLine', { person: 5, pipeline: 7 }, context).asked).toEqual({
      join: 'all',
      of: [
        { field: 'deal.owner', is: 'anyOf', value: [5] },
        { field: 'deal.pipeline', is: 'anyOf', value: [7] },
      ],
    });
  });

  it('says what records do not know of it', () => {
    expect(narrowedTo('lead', { pipeline: 7 }, context)).toEqual({ asked: undefined, ignored: ['pipeline'] });
    expect(narrowedTo('activity', { team: 4, pipeline: 7 }, context).ignored).toEqual([]);
    expect(narrowedTo('target', { pipeline: 7 }, context).ignored).toEqual(['pipeline']);
  });

  it('gives a report its period, and leaves one without a period as it is', () => {
    const period = { unit: 'month', offset: -1 } as const;
    const won = narrowedReport(ready('won-against-last-year'), { period }, context);
    expect(won.asked.period?.in).toEqual(period);
    expect(won.ignored).toEqual([]);
    const open = narrowedReport(ready('pipeline-by-stage'), { period }, context);
    expect(open.asked).toEqual(ready('pipeline-by-stage'));
    expect(open.ignored).toEqual(['period']);
  });

  it('narrows the records beside a report too, and says what those do not know', () => {
    const { asked, ignored } = narrowedReport(
      ready('closed-and-needed'),
      { person: 5, pipeline: 7 },
      context,
    );
    const besides = asked.figures.flatMap((figure) =>
      'measure' in figure && figure.beside ? [figure.beside] : [],
    );
    expect(besides.length).toBeGreaterThan(1);
    for (const { object, where } of besides) {
      expect(JSON.stringify(where)).toContain('{"field":"owner","is":"anyOf","value":[5]}');
      expect(JSON.stringify(where).includes('pipeline')).toBe(object === 'deal');
    }
    expect(ignored).toEqual(['pipeline']);
  });

  it('leaves every report that comes with Zawn one that can be asked', () => {
    const choice = { period: { unit: 'year', offset: 0 }, team: 1, person: 5, pipeline: 7 } as const;
    for (const { key, design } of readyReports) {
      const { faults } = checkReport(narrowedReport(design, choice, context).asked, builtIn);
      expect([key, faults]).toEqual([key, []]);
    }
  });
});

describe('tiles', () => {
  it('begin where there is room', () => {
    expect(freePlace([], 6, 4)).toEqual({ x: 0, y: 0, w: 6, h: 4 });
    expect(freePlace([{ at }], 6, 4)).toEqual({ x: 4, y: 0, w: 6, h: 4 });
    expect(freePlace([{ at: { ...at, w: TILE_COLUMNS } }], 6, 4)).toEqual({ x: 0, y: 4, w: 6, h: 4 });
  });

  it('have keys that no other has', () => {
    expect(freeTileKey([{ key: 't2' }, { key: 't3' }])).toBe('t4');
  });

  it('draw a report as they say, and keep one of their own only where it asks something else', () => {
    const named = ready('pipeline-by-stage');
    const plain = tile('t1', { kind: 'report', ready: 'pipeline-by-stage' }) as Extract<
      Tile,
      { kind: 'report' }
    >;
    const redrawn = changedTile(plain, named, { ...named, draw: 'heat', style: { legend: 'none' } });
    expect(redrawn.look).toEqual({ draw: 'heat', style: { legend: 'none' } });
    expect(redrawn.design).toBeUndefined();
    const followed = { ...named, top: 3 };
    expect(shownReport(redrawn, followed)).toEqual({ ...followed, draw: 'heat', style: { legend: 'none' } });
    const asked = changedTile(redrawn, named, { ...named, top: 5 });
    expect(asked.design).toEqual({ ...named, top: 5 });
    expect(asked.look).toBeUndefined();
    expect(changedTile(asked, named, named)).toEqual(plain);
  });

  it('know which objects they are asked again for', () => {
    const reads = readByReport(builtIn, ready('from-the-company-down'));
    expect(reads).toEqual(expect.arrayContaining(['deal', 'person', 'activity']));
    expect(reads).not.toContain('lead');
    expect(readByReport(builtIn, ready('closed-and-needed'))).toContain('target');
    expect(readByReport(builtIn, ready('leads-let-go'))).not.toContain('deal');
  });
});

describe('two people who arrange one dashboard', () => {
  const [a, b, c] = ['a', 'b', 'c'].map((key) => tile(key));
  const moved = (of: Tile, x: number) => ({ ...of, at: { ...at, x } });

  it('both have what they changed of different tiles', () => {
    const { tiles, clashes } = arrangedTogether([a, b, c], [a, moved(b, 3), c], [moved(a, 5), b, c]);
    expect(tiles).toEqual([moved(a, 5), moved(b, 3), c]);
    expect(clashes).toEqual([]);
  });

  it('have what each added, and miss what one of them took away', () => {
    const [d, e] = [tile('d'), tile('e')];
    expect(arrangedTogether([a, b], [a, d], [a, b, e])).toEqual({ tiles: [a, e, d], clashes: [] });
  });

  it('are told of a tile that both changed otherwise, or one changed and the other took away', () => {
    expect(arrangedTogether([a], [moved(a, 2)], [moved(a, 4)])).toEqual({
      tiles: [moved(a, 4)],
      clashes: ['a'],
    });
    expect(arrangedTogether([a, b], [b], [moved(a, 4), b])).toEqual({
      tiles: [moved(a, 4), b],
      clashes: ['a'],
    });
    expect(arrangedTogether([a, b], [moved(a, 4), b], [b])).toEqual({
      tiles: [b, moved(a, 4)],
      clashes: ['a'],
    });
  });

  it('made the same change once', () => {
    expect(arrangedTogether([a], [moved(a, 2)], [moved(a, 2)])).toEqual({
      tiles: [moved(a, 2)],
      clashes: [],
    });
  });
});

describe('what a tile shows', () => {
  const design: DashboardDesign = {
    version: 1,
    tiles: [
      tile('r', { kind: 'report', report: 4, title: 'Ours', look: { draw: 'bars' } }),
      tile('v', { kind: 'list', view: 4 }),
      tile('n'),
    ],
  };

  it('is found by what it is', () => {
    expect(tilesShowing(design, { report: 4 }).map(({ key }) => key)).toEqual(['r']);
    expect(tilesShowing(design, { view: 4 }).map(({ key }) => key)).toEqual(['v']);
    expect(tilesShowing(design, { view: 5 })).toEqual([]);
  });

  it('is replaced where it stands', () => {
    const { tiles } = showingInstead(design, { report: 4 }, { ready: 'win-rate' });
    expect(tiles[0]).toEqual({ key: 'r', at, title: 'Ours', kind: 'report', ready: 'win-rate' });
    expect(tiles.slice(1)).toEqual(design.tiles.slice(1));
  });
});

describe('a dashboard that comes from outside', () => {
  const check = (...tiles: object[]) => checkDashboard({ version: 1, tiles }, builtIn);
  const said = (...tiles: object[]) =>
    check(...tiles).faults.map(({ field, message }) => `${field}: ${message}`);
  const note = { key: 'n', kind: 'note', text: 'Look', at };

  it('is sound when it comes with Zawn, its reports too', () => {
    for (const { key, design } of readyDashboards) {
      expect([key, checkDashboard(design, builtIn).faults]).toEqual([key, []]);
      for (const each of design.tiles)
        if (each.kind === 'report') {
          const named = readyReports.find((report) => report.key === each.ready)?.design;
          const shown = shownReport(each, named);
          expect([key, each.key, shown && knownReport(shown, builtIn).leftOut]).toEqual([key, each.key, []]);
        }
    }
  });

  it('has no tile over another when it comes with Zawn', () => {
    for (const { key, design } of readyDashboards)
      for (const [index, one] of design.tiles.entries())
        for (const other of design.tiles.slice(index + 1)) {
          const [p, q] = [one.at, other.at];
          const isOver = p.x < q.x + q.w && q.x < p.x + p.w && p.y < q.y + q.h && q.y < p.y + p.h;
          expect([key, one.key, other.key, isOver]).toEqual([key, one.key, other.key, false]);
        }
  });

  it('is refused with the place of each fault', () => {
    expect(said({ ...note, at: { x: 10, y: 0, w: 4, h: 2 } })[0]).toContain('within 12 columns');
    expect(said({ ...note, text: '' })[0]).toContain('tiles.0');
    expect(said({ ...note, kind: 'clock' })[0]).toContain('no such kind of tile');
    expect(said(note, note)).toEqual(['tiles: Two tiles have the same key']);
    expect(said({ key: 'r', kind: 'report', at })[0]).toContain('tiles.0');
    expect(said({ key: 'r', kind: 'report', at, ready: 'nothing' })).toEqual([
      'tiles.0.ready: There is no such report',
    ]);
    expect(said({ key: 'l', kind: 'list', at, ready: 'nothing' })).toEqual([
      'tiles.0.ready: There is no such view',
    ]);
    const bad = { ...ready('win-rate'), figures: [{ key: 'a', formula: 'b / 2' }] };
    expect(said({ key: 'r', kind: 'report', at, design: bad })[0]).toBe(
      'tiles.0.design.figures.0: There is no figure “b”',
    );
    expect(
      said({ key: 'm', kind: 'movement', at, where: { field: 'value', is: 'contains', value: 'x' } })[0],
    ).toContain('tiles.0.design');
    expect(
      said({ key: 'r', kind: 'report', at, ready: 'win-rate', look: { style: { from: 2, to: 1 } } })[0],
    ).toContain('must end above');
  });

  it('has sixty tiles and not one more', () => {
    const many = (count: number) =>
      Array.from({ length: count }, (_, index) => ({ ...note, key: `n${index}` }));
    expect(check(...many(MOST_TILES)).value?.tiles).toHaveLength(MOST_TILES);
    expect(said(...many(MOST_TILES + 1))).toEqual([`tiles: A dashboard has at most ${MOST_TILES} tiles`]);
  });

  it('is none where what is kept cannot be read', () => {
    expect(dashboardDesignOf({ design: '{' })).toBeUndefined();
    expect(dashboardDesignOf({ design: '{"version":1}' })).toBeUndefined();
  });
});

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { Key } from 'selenium-webdriver';
import { Person } from '../person';
import { startZawn } from '../zawn-server';
import { setStage } from './stage';

const AXE = readFileSync(require.resolve('axe-core/axe.min.js'), 'utf8');
const LARGEST_SCRIPT = 300 * 1024;

const stage = setStage();
let person: Person;
beforeAll(() => {
  person = stage.person;
});

interface Violation {
  id: string;
  help: string;
  nodes: { html: string; failureSummary: string }[];
}

/** What axe finds wrong with the page as it is, by WCAG 2.2 A and AA, and whether its headings are in order. */
async function violations(): Promise<string[]> {
  await person.driver.executeScript(AXE);
  const found = await person.driver.executeAsyncScript<Violation[]>(
    `const done = arguments[0];
     const runOnly = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
     const rules = { 'heading-order': { enabled: true } };
     axe.run({ runOnly, rules }).then(({ violations }) => done(violations));`,
  );
  return found.map(
    ({ id, nodes }) =>
      `${id}: ${nodes
        .slice(0, 3)
        .map(({ html, failureSummary }) => `${html.slice(0, 160)} ${failureSummary.slice(0, 200)}`)
        .join(' | ')}`,
  );
}

describe('every main view', () => {
  it('lets everyone in: the sign-in page', async () => {
    await person.goTo('/');
    await person.see('.sign-in-people');
    expect(await violations()).toEqual([]);
  });

  const views: [name: string, path: string, shows: string][] = [
    ['Today', '/', '.work'],
    ['leads', '/leads', '.table-row'],
    ['contacts', '/contacts', '.table-row'],
    ['the deal grid', '/deals', '.strip'],
    ['the deal table', '/deals?view=all-deals', '.table-row'],
    ['a grouped table', '/deals?view=closing', '.group-head'],
    ['columns', '/deals?view=won-by-month', '.bar-segment'],
    ['bars', '/deals?view=why-lost', '.bar-segment'],
    ['a line', '/activities?view=per-week', '.line-point'],
    ['a pivot', '/deals?view=stages-by-owner', '.pivot td'],
    ['a list', '/accounts?list=1', '.table-row'],
    ['activities', '/activities', '.table-row'],
    ['calls', '/activities?view=calls', '.table-row .recording'],
    ['the activity board', '/activity-board', '.outcome-table'],
    ['call lists', '/call-lists', '.empty'],
    ['the bin', '/bin', '.empty'],
    ['imports', '/imports', '.file-drop'],
    ['one’s own changes', '/changes', '.changes li'],
    ['notices', '/notices', '.notice-kinds'],
    ['tokens', '/tokens', '.token-form'],
    ['the team pipeline', '/team', '.bar-segment'],
    ['the reports', '/reports', '.report-shelf li'],
    ['a report', '/reports/won-against-last-year', '.report-drawing .bar-segment'],
    ['a funnel', '/reports/pipeline-by-stage', '.report-drawing .bar-segment'],
    ['a heat table', '/reports/stage-by-outcome', '.heat .bar-segment'],
    ['points of two figures', '/reports/cycle-by-owner', '.report-drawing .line-point'],
    ['shares of the whole', '/reports/won-by-source', '.report-drawing .bar-segment'],
    ['a movement', '/reports/movement', '.movement-step'],
    ['the dashboards', '/dashboards', '.report-shelf li'],
    ['a dashboard', '/dashboards/the-team', '.tile .bar-segment'],
    ['a dashboard of upkeep and lists', '/dashboards/data-and-process', '.tile .upkeep-kinds li'],
    ['snapshots before there are any', '/snapshots', '.empty'],
    ['the meeting packs', '/packs', '.report-shelf li'],
    ['a meeting pack', '/packs/monthly-meeting', '.pack-page-shown .bar-segment'],
    ['a meeting pack that is presented', '/packs/monthly-meeting/present', '.presented .bar-segment'],
    ['competitors', '/competitors', '.competitors td'],
    ['a competitor', '/competitors/delmark', '.competitor-reasons li'],
    ['upkeep', '/upkeep', '.upkeep-kinds li'],
  ];

  it.each(views)('can be used by everyone: %s', async (_, path, shows) => {
    if ((await person.count('.sign-in-form')) > 0) await person.signInAs('Maren Ollerby');
    await person.goTo(path);
    await person.see(shows);
    expect(await violations()).toEqual([]);
  });

  it('can be used by everyone: a dashboard being arranged, a tile being changed, a typed question', async () => {
    await person.goTo('/dashboards/the-team');
    await person.see('.tile .bar-segment');
    await person.click('Arrange');
    await person.clickAt('[aria-label="What to do with “Win rate”"]');
    await person.clickAt('.ant-dropdown:not(.ant-dropdown-hidden) [role="menuitem"]:first-child');
    await person.see('.tile-panel .sentence');
    expect(await violations()).toEqual([]);
    await person.goTo('/deals');
    await person.clickToken('or type it…');
    await person.see('.typed-question input');
    await person.press(...'deals with purple sails won this year by sta');
    await person.see('.typed-reading mark');
    expect(await violations()).toEqual([]);
    await person.press(Key.ESCAPE);
  });

  it('can be used by everyone: a file on its way in', async () => {
    await person.goTo('/imports');
    await person.see('.file-drop');
    await person.giveFile(
      'fair.csv',
      'Name;Mail;Source\nRuna;runa at home;Pigeon\nPer;per@s.example;Website\n',
    );
    await person.read('What do these stand for?', '.import-side');
    expect(await violations()).toEqual([]);
    await person.clickAt('.import-counts .attention button');
    await person.see('.examples li');
    expect(await violations()).toEqual([]);
  });

  it('can be used by everyone: what operations set up, and the records it is for', async () => {
    await person.signOut();
    await person.signInAs('Bram Tideswell');
    for (const [path, shows] of [
      ['/setup', '.sections li'],
      ['/setup/tags', '.tag-list li'],
      ['/setup/assignment', '.rule'],
      ['/forms', '.forms li'],
      ['/forms/1', '.asked li'],
      ['/forms/1?sent', '.submissions li'],
      ['/setup/mail', '.addresses li'],
      ['/setup/fields?of=account', '.own-fields li'],
      ['/setup/choices?list=leadStatus', '.choices li'],
      ['/setup/choices?list=activityOutcome', '.choice-more'],
      ['/setup/scores', '.score-rule-list li'],
      ['/setup/products', '.products tbody tr'],
      ['/setup/pipelines', '.pipeline-use'],
      ['/upkeep', '.readiness-trend'],
      ['/duplicates?of=contact', '.pairs li'],
      ['/accounts/1', '.picture-lists'],
      ['/leads/1', '.qualifying'],
    ]) {
      await person.goTo(path);
      await person.see(shows);
      expect([path, ...(await violations())]).toEqual([path]);
    }
    await person.goTo('/f/site-survey');
    await person.see('form');
    expect(await violations()).toEqual([]);
    await person.goTo('/');
    await person.see('nav[aria-label="Main"]');
    await person.signOut();
    await person.signInAs('Maren Ollerby');
  });

  it('can be used by everyone: a record’s sheet, in dark colours too', async () => {
    await person.goTo('/deals?view=all-deals');
    await person.clickAt('.table-row');
    await person.see('.timeline .entry');
    expect(await violations()).toEqual([]);
    await person.driver.executeScript(`localStorage.setItem('zawn.theme', 'dark')`);
    await person.driver.navigate().refresh();
    await person.see('.timeline .entry');
    expect(await violations()).toEqual([]);
    await person.driver.executeScript(`localStorage.setItem('zawn.theme', 'light')`);
  });

  it('fetches at most 300 kB of script before one can begin', async () => {
    await person.goTo('/');
    await person.see('.work');
    const names = await person.driver.executeScript<string[]>(
      `return performance.getEntriesByType('resource').map(({ name }) => name).filter((name) => name.endsWith('.js'))`,
    );
    const assets = join(__dirname, '..', '..', '..', 'web', 'dist', 'assets');
    const sizes = names.map(
      (name) => gzipSync(readFileSync(join(assets, name.split('/').at(-1) ?? ''))).length,
    );
    expect(sizes.length).toBeGreaterThan(3);
    expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThanOrEqual(LARGEST_SCRIPT);
    // The other routes are bundles of their own.
    expect(sizes.length).toBeLessThan(readdirSync(assets).filter((name) => name.endsWith('.js')).length);
  });

  it('lets no page run a script that is not its own', async () => {
    const answer = await fetch(`${stage.server.address}/`);
    expect(answer.headers.get('content-security-policy')).toContain("script-src 'self'");
    expect(await answer.text()).not.toMatch(/<script(?![^>]*src=)/);
  });
});

describe('when a session ends', () => {
  it('says so, and goes on after signing in again', async () => {
    await person.goTo('/leads');
    await person.see('.table-row');
    await person.driver.manage().deleteAllCookies();
    await person.press('g', 'a');
    await person.read('Your session has ended. Sign in again; nothing was lost.');
    await person.signInAs('Maren Ollerby').catch(() => undefined);
    await person.see('nav[aria-label="Main"]');
  });

  it('does not say whether mail or password was wrong', async () => {
    await person.signOut();
    await person.see('#email');
    await person.press('maren.ollerby@brackwater.example', Key.TAB, 'a guess', Key.ENTER);
    await person.read('The email address or the password is wrong.');
  });
});

describe('a normal start', () => {
  it('begins with creating the organisation and the first person', async () => {
    const own = await startZawn({ demo: false });
    const founder = new Person(stage.browser.driver, own.address);
    try {
      await founder.goTo('/');
      await founder.type('#name', 'Tolmouth Gauges');
      await founder.type('#person_name', 'Orla Haldane');
      await founder.type('#person_email', 'orla@tolmouth.example');
      await founder.type('#person_password', 'short');
      await founder.click('Create the organisation');
      await founder.read('Password needs at least 10 characters');
      await founder.type('#person_password', 'low water mark');
      await founder.click('Create the organisation');
      await founder.see('nav[aria-label="Main"]');
      await founder.read('Nothing is due in the next seven days.');
      await founder.goTo('/leads');
      await founder.read('No leads match this.');
    } finally {
      await own.stop();
    }
  });
});

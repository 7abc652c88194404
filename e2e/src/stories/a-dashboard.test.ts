import { Key } from 'selenium-webdriver';
import { openBrowser } from '../browser';
import { Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let manager: Person;
beforeAll(() => {
  manager = stage.person;
});

const signInAs = async (name: string) => {
  await manager.driver.manage().deleteAllCookies();
  await manager.signInAs(name);
};
/** The menu that is open. */
const MENU = '.ant-dropdown:not(.ant-dropdown-hidden)';
const tile = (name: string) => `.tile[aria-label="${name}"]`;
/** Where a tile lies and how large it is, as parts of the width of the grid, however wide that is at the moment. */
const placeOf = (name: string) =>
  manager.driver.executeScript<[number, number, number, number]>(
    `const grid = document.querySelector('.tile-grid').getBoundingClientRect();
     const box = document.querySelector(arguments[0]).getBoundingClientRect();
     return [box.x - grid.x, box.y - grid.y, box.width, box.height].map((each) => Math.round((100 * each) / grid.width))`,
    tile(name),
  );
/** Adds a tile by what it is called. */
const add = async (name: string) => {
  await manager.click('Add a tile');
  await manager.see('[aria-label="Find what to show"]');
  await manager.press(...name);
  await manager.read(name, '.choose-content');
  await manager.press(Key.ENTER);
};
const changeTile = async (name: string) => {
  await manager.clickAt(`[aria-label="What to do with “${name}”"]`);
  await manager.clickAt(`${MENU} [role="menuitem"]:first-child`);
  await manager.see('.tile-panel');
};
const callTile = async (name: string) => {
  await manager.clickAt('.tile-panel input');
  await manager.press(...name);
  await manager.see(tile(name));
};
const choose = async (label: string, words: string) => {
  await manager.clickAt(`[aria-label="${label}"]`);
  await manager.press(...words);
  await manager.clickAt(`.ant-select-item-option[title="${words}"]`);
};

describe('a dashboard of one’s own', () => {
  it('begins empty and is given tiles', async () => {
    await manager.signInAs('Maren Ollerby');
    await manager.goTo('/dashboards');
    await manager.read('Data and process', '[aria-label="Ready-made"]');
    await manager.click('New dashboard');
    await manager.read('No tiles yet');
    await add('Win rate by owner');
    await manager.see(`${tile('Win rate by owner')} .bar-segment`);
    await add('Pipeline from the company');
    await manager.see(tile('Pipeline from the company down'));
  });

  it('shows value by rep, from a question of its own', async () => {
    await add('A report of its own');
    await manager.see(tile('Report'));
    await changeTile('Report');
    await callTile('Value by rep');
    await manager.clickToken('where…');
    await manager.pick('outcome');
    await manager.pick('won');
    await manager.press(Key.TAB);
    await manager.clickToken('grouped by…');
    await manager.pick('owner');
    await manager.clickToken('over a period…');
    await manager.pick('closed on');
    await manager.see(`${tile('Value by rep')} .bar-segment`);
    await manager.clickAt('.tile-panel [aria-label^="Figure a"]');
    await manager.until(
      'what it is of is asked',
      async () => (await manager.focused('aria-label')) === 'What',
    );
    await manager.press(...'sum of value', Key.ENTER, Key.ESCAPE);
    await manager.read('£', `${tile('Value by rep')} .tile-drawing`);
  });

  it('restyles a drawing where it stands, and puts it back', async () => {
    await changeTile('Win rate by owner');
    await manager.clickToken('bars');
    await manager.pick('columns');
    await manager.until(
      'the drawing stands upright',
      async () => (await manager.count(`${tile('Win rate by owner')} .chart-rows`)) === 0,
    );
    await manager.click('Put back to “Win rate by owner”');
    await manager.see(`${tile('Win rate by owner')} .chart-rows`);
    await manager.clickToken('with labels, limits…');
    await manager.see('[aria-label="Written out"]');
    await manager.press(Key.ESCAPE);
    await manager.clickAt('[aria-label="Close what is changed"]');
  });

  it('is arranged by the keyboard and by the mouse', async () => {
    // Half of the grid, which has its whole width again once nothing stands beside it.
    await manager.until('it has its width', async () => (await placeOf('Value by rep'))[2] >= 49);
    const [x, , width] = await placeOf('Value by rep');
    const handle = '[aria-label^="Move “Value by rep”"]';
    await manager.driver.executeScript('document.querySelector(arguments[0]).focus()', handle);
    await manager.pressWith(Key.SHIFT, Key.ARROW_LEFT);
    await manager.until('it is narrower', async () => (await placeOf('Value by rep'))[2] < width);
    await manager.press(Key.ARROW_RIGHT);
    await manager.until('it lies further right', async () => (await placeOf('Value by rep'))[0] > x);
    const before = await placeOf('Win rate by owner');
    await manager.drag(`${tile('Win rate by owner')} .tile-head`, `${tile('Value by rep')} .tile-body`);
    await manager.until('it lies lower', async () => (await placeOf('Win rate by owner'))[1] > before[1]);
  });

  it('is narrowed once for all, in its address, and says what does not follow', async () => {
    await choose('Period', 'Last fiscal quarter');
    await choose('Person', 'Tamsin Rudd');
    await manager.read('of any time', tile('Pipeline from the company down'));
    await manager.until(
      'one rep is left',
      async () => (await manager.count(`${tile('Win rate by owner')} .bar-segment`)) === 1,
    );
    expect(decodeURIComponent(await manager.driver.getCurrentUrl())).toContain('"offset":-1');
    await manager.click('Begin with this choice');
  });

  it('is kept, shared, and opens the records behind a figure', async () => {
    await manager.click('Save dashboard');
    await manager.see('#view-name');
    await manager.press(...'The coast each quarter');
    await manager.clickAt('.ant-radio-wrapper:nth-child(2)');
    await manager.click('Save dashboard', '@class="ant-modal-footer"');
    await manager.read('The coast each quarter', 'h1');
    await manager.clickAt(`${tile('Win rate by owner')} a:has(.bar-segment)`);
    await manager.see('.records-beside .table-body');
    await manager.press(Key.ESCAPE);
  });

  it('is what Zawn opens with, where one wants it', async () => {
    await manager.clickAt('[aria-label="Dashboard actions"]');
    await manager.clickAt(`${MENU} [role="menuitem"]:nth-child(3)`);
    await manager.goTo('/');
    await manager.read('The coast each quarter', 'h1');
    await manager.clickAt('nav a[href="/"]');
    await manager.readNoMore('The coast each quarter', 'h1');
  });
});

describe('whoever it is shared with', () => {
  it('sees it on a phone in the order of importance', async () => {
    const browser = await openBrowser({ width: 390, height: 844 });
    try {
      const rep = new Person(browser.driver, stage.server.address);
      await rep.signInAs('Tamsin Rudd');
      await rep.goTo('/dashboards');
      await rep.clickAt('[aria-label="Shared with me"] a');
      await rep.see(`.tiles-in-a-row ${tile('Value by rep')} .tile-body`);
      const names = await rep.driver.executeScript<string[]>(
        'return [...document.querySelectorAll(".tile")].map((each) => each.getAttribute("aria-label"))',
      );
      expect(names).toEqual(['Win rate by owner', 'Pipeline from the company down', 'Value by rep']);
    } finally {
      await browser.quit();
    }
  });

  it('keeps what they change as their own', async () => {
    await signInAs('Tamsin Rudd');
    await manager.goTo('/dashboards');
    await manager.clickAt('[aria-label="Shared with me"] a');
    await manager.see(tile('Value by rep'));
    await manager.clickAt('[aria-label="What to do with “Value by rep”"]');
    await manager.clickAt(`${MENU} [role="menuitem"]:last-child`);
    await manager.until('the tile is gone', async () => (await manager.count('.tile')) === 2);
    await manager.click('Save dashboard');
    await manager.see('#view-name');
    await manager.click('Save dashboard', '@class="ant-modal-footer"');
    await manager.read('The coast each quarter, copy', 'h1');
  });
});

describe('what a dashboard shows', () => {
  /** Gives the tile that is changed a title, letter by letter. */
  const retitle = async (person: Person, from: string, to: string) => {
    await person.clickAt(`[aria-label="What to do with “${from}”"]`);
    await person.clickAt(`${MENU} [role="menuitem"]:first-child`);
    await person.see('.tile-panel');
    await person.type('.tile-panel input', to);
    await person.see(tile(to));
    await person.clickAt('[aria-label="Close what is changed"]');
  };

  it('is told before it is deleted, and another one stands there instead', async () => {
    await signInAs('Maren Ollerby');
    await manager.goTo('/reports/win-rate');
    await manager.see('.report-table');
    await manager.clickAt('[aria-label="Report actions"]');
    await manager.clickAt(`${MENU} [role="menuitem"]:first-child`);
    await manager.see('#view-name');
    await manager.click('Save report', '@class="ant-modal-footer"');
    await manager.read('Win rate by owner, mine', 'h1');
    await manager.goTo('/dashboards/new');
    await add('Win rate by owner, mine');
    await manager.see(tile('Win rate by owner, mine'));
    await manager.click('Save dashboard');
    await manager.see('#view-name');
    await manager.press(...'On one report');
    await manager.click('Save dashboard', '@class="ant-modal-footer"');
    await manager.read('On one report', 'h1');
    await manager.goTo('/reports');
    await manager.clickAt('[aria-label="My own"] a');
    await manager.see('.report-table');
    await manager.clickAt('[aria-label="Report actions"]');
    await manager.clickAt(`${MENU} .ant-dropdown-menu-item-danger`);
    await manager.read('Shown on the dashboard “On one report”', '.ant-modal');
    await choose('Shown there instead', 'Velocity, and what it is made of');
    await manager.click('Delete report', '@class="ant-modal-footer"');
    // Both writes are done when it leads back to the others.
    await manager.until(
      'it is deleted',
      async () => new URL(await manager.driver.getCurrentUrl()).pathname === '/reports',
    );
    await manager.goTo('/dashboards');
    await manager.read('On one report', '[aria-label="My own"]');
    await manager.driver.executeScript(
      `[...document.querySelectorAll('[aria-label="My own"] a')].find((each) => each.textContent === 'On one report').click()`,
    );
    await manager.see(tile('Velocity, and what it is made of'));
  });

  it('is put together from two windows, and what both changed otherwise is asked about', async () => {
    const address = new URL(await manager.driver.getCurrentUrl()).pathname;
    await manager.click('Arrange');
    await add('Win rate by owner');
    await manager.see(tile('Win rate by owner'));
    await manager.click('Save', '@class="page-tools"');
    await manager.until('it is kept', async () => !(await manager.text('.page-count')).includes('changed'));
    const browser = await openBrowser();
    try {
      const there = new Person(browser.driver, stage.server.address);
      await there.signInAs('Maren Ollerby');
      await there.goTo(address);
      await there.see(tile('Win rate by owner'));
      await retitle(manager, 'Win rate by owner', 'Rate');
      await retitle(there, 'Velocity, and what it is made of', 'Pace');
      await there.click('Save', '@class="page-tools"');
      await there.until('it is kept', async () => !(await there.text('.page-count')).includes('changed'));
      await manager.click('Save', '@class="page-tools"');
      await manager.see(tile('Pace'));
      await manager.see(tile('Rate'));
      // Both of one tile: nothing is decided by who was later.
      await there.see(tile('Rate'));
      await retitle(manager, 'Rate', 'Mine');
      await retitle(there, 'Rate', 'Theirs');
      await there.click('Save', '@class="page-tools"');
      await there.until('it is kept', async () => !(await there.text('.page-count')).includes('changed'));
      await manager.click('Save', '@class="page-tools"');
      await manager.read('You both changed “Mine”', '.ant-modal');
      await manager.click('Take theirs, discard mine', '@class="ant-modal-footer"');
      await manager.see(tile('Theirs'));
    } finally {
      await browser.quit();
    }
  });

  it('says in its tile when it is gone, and the other tiles go on', async () => {
    const gone = await manager.driver.executeAsyncScript<number>(`
      const done = arguments[arguments.length - 1];
      (async () => {
        const { csrf } = await (await fetch('/api/v1/session')).json();
        const at = { x: 0, y: 0, w: 6, h: 4 };
        const tiles = [
          { key: 'gone', kind: 'report', report: 999999, at },
          { key: 'note', kind: 'note', text: 'Still here', at: { ...at, x: 6 } },
        ];
        const response = await fetch('/api/v1/dashboards', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf },
          body: JSON.stringify({ name: 'Half of it', sharing: 'private', design: JSON.stringify({ version: 1, tiles }) }),
        });
        done((await response.json()).value.id);
      })();`);
    await manager.goTo(`/dashboards/${gone}`);
    await manager.read('is gone, or is not shared with you', '[data-tile="gone"]');
    await manager.read('Still here', '[data-tile="note"]');
  });
});

describe('a dashboard that is looked at', () => {
  /** Writes down which objects the page asks for, and when. */
  const watchAsked = () =>
    manager.driver.executeScript(`
      window.asked = [];
      const before = window.fetch;
      window.fetch = (address, options) => {
        const design = /reports\\/answer$/.test(String(address)) && JSON.parse(options.body).design;
        if (design) window.asked.push([design.question.object, performance.now()]);
        return before(address, options);
      };`);
  const asked = () => manager.driver.executeScript<[string, number][]>('return window.asked');
  const addLead = (name: string) =>
    manager.driver.executeAsyncScript(
      `const done = arguments[arguments.length - 1];
      (async () => {
        const { csrf, me } = await (await fetch('/api/v1/session')).json();
        const body = JSON.stringify({ name: arguments[0], status: 'untouched', owner: me.id });
        const headers = { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf };
        done((await fetch('/api/v1/leads', { method: 'POST', headers, body })).status);
      })();`,
      name,
    );

  it('asks again for what was written alone, and not more often than every five seconds', async () => {
    await manager.goTo('/dashboards/new');
    await add('What leads come to, by source');
    await manager.see(`${tile('What leads come to, by source')} svg`);
    await add('Velocity');
    await manager.see(`${tile('Velocity, and what it is made of')} .bar-segment`);
    await watchAsked();
    await addLead('First of two');
    await manager.until('it is asked again', async () => (await asked()).length > 0);
    await addLead('Second of two');
    await manager.until('it is asked again for the second', async () => (await asked()).length > 1);
    const [[, first], [, second]] = await asked();
    expect(second - first).toBeGreaterThan(4000);
    expect([...new Set((await asked()).map(([object]) => object))]).toEqual(['lead']);
  });

  it('fills the screen, one after the other', async () => {
    await manager.goTo('/dashboards/the-team');
    await manager.see('.tile .bar-segment');
    await manager.press('f');
    await manager.see('.turn-choice');
    await manager.driver.executeScript(
      `[...document.querySelectorAll('.turn-choice label')].find((each) => each.textContent === 'The company').click()`,
    );
    await manager.click('Begin');
    await manager.read('The team', '.turning h1');
    await manager.press(Key.ARROW_RIGHT);
    await manager.read('The company', '.turning h1');
    await manager.see('.turning .tile .bar-segment');
    await manager.press(Key.ESCAPE);
    await manager.until('it is left', async () => (await manager.count('.turning')) === 0);
  });
});

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
const placeOf = (name: string) =>
  manager.driver.executeScript<[number, number, number, number]>(
    'const box = document.querySelector(arguments[0]).getBoundingClientRect(); return [box.x, box.y, box.width, box.height].map(Math.round)',
    tile(name),
  );
/** Adds a tile by what it is called. */
const add = async (name: string) => {
  await manager.click('Add a tile');
  await manager.see('[aria-label="Find what to show"]');
  await manager.press(...name);
  await manager.read(name, '.add-tile');
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

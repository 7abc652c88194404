import { Key } from 'selenium-webdriver';
import { setStage } from './stage';
import { type Person } from '../person';

const stage = setStage({ width: 390, height: 844 });
let rep: Person;
beforeAll(async () => {
  rep = stage.person;
  await rep.signInAs('Tamsin Rudd');
});

/** How far the page, and a part of it, can be scrolled sideways, in pixels. */
const sideways = (selector: string) =>
  rep.driver.executeScript<number[]>(
    `return [document.documentElement, ...document.querySelectorAll(arguments[0])].map((part) => part.scrollWidth - part.clientWidth)`,
    selector,
  );

/** The texts of these parts that do not fit where they stand. */
const cut = (selector: string) =>
  rep.driver.executeScript<string[]>(
    `const right = document.documentElement.clientWidth;
     return [...document.querySelectorAll(arguments[0])]
       .filter((part) => part.scrollWidth > part.clientWidth + 1 || part.getBoundingClientRect().right > right)
       .map((part) => part.textContent)`,
    selector,
  );

describe('a phone in the hand', () => {
  it('has five places at its foot, each with its word', async () => {
    const bar = await rep.driver.findElements({ css: '.phone-bar a' });
    expect(await Promise.all(bar.map((place) => place.getText()))).toEqual([
      'Today',
      'Leads',
      'People',
      'Deals',
      'More',
    ]);
    expect(await cut('.phone-bar a')).toEqual([]);
    expect(await rep.count('.rail')).toBe(0);
  });

  it('shows all of Today, without scrolling sideways', async () => {
    await rep.see('.work');
    expect(await rep.count('.work-what b')).toBeGreaterThan(5);
    expect(await cut('.work-what b, .work-when, .work-section h2')).toEqual([]);
    expect(Math.max(...(await sideways('.page, .today-main')))).toBe(0);
  });

  it.each([
    ['/leads', 'status'],
    ['/contacts', 'account'],
    ['/accounts', 'industry'],
    ['/deals?view=all-deals', 'stage'],
    ['/activities', 'dueOn'],
  ])('lists %s in rows of two lines', async (path) => {
    await rep.goTo(path);
    await rep.see('.table-row:not(.table-waiting) [role=gridcell]:nth-child(2)');
    expect(Math.max(...(await sideways('.table')))).toBe(0);
    const tops = await rep.driver.executeScript<number[]>(
      `const cells = [...document.querySelector('.table-row').querySelectorAll('[role=gridcell]:not(.table-mark)')];
       const seen = cells.filter((cell) => cell.offsetParent && cell.textContent);
       return [...new Set(seen.map((cell) => cell.offsetTop))]`,
    );
    expect(tops).toHaveLength(2);
  });

  it('opens a record over the list, and comes back to it', async () => {
    await rep.goTo('/leads');
    await rep.clickAt('.table-row');
    await rep.see('.sheet h1, .sheet h2');
    expect(Math.max(...(await sideways('.sheet')))).toBe(0);
    await rep.driver.navigate().back();
    await rep.until('the sheet is closed', async () => (await rep.count('.sheet')) === 0);
  });

  it('shows what a typed question is read as within the screen', async () => {
    await rep.press(Key.ESCAPE, '/');
    await rep.until('the field has the focus', async () => (await rep.focused('id')) === 'go-anywhere');
    await rep.press(...'open deals of nobody in particular over 25k by owner then stage');
    await rep.see('.hit-asked');
    expect(await cut('.go-anywhere-list, .go-anywhere-list .hit, .bar .go-anywhere')).toEqual([]);
    await rep.press(Key.ESCAPE);
  });

  it('has everything else behind More', async () => {
    await rep.clickAt('.phone-bar a:last-child');
    await rep.read('Accounts', '.more');
    await rep.readNoMore('Setup', '.more');
    await rep.driver.executeScript(`document.querySelector('.more a[href="/accounts"]').click()`);
    await rep.read('All accounts', '.view-name');
  });
});

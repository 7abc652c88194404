import { Key } from 'selenium-webdriver';
import { Person } from '../person';
import { startZawn } from '../zawn-server';
import { setStage } from './stage';

const stage = setStage();
const person = () => stage.person;

/** Whoever sits at the browser leaves it to somebody else. */
const nowAs = async (name: string) => {
  await person().driver.manage().deleteAllCookies();
  await person().signInAs(name);
};

const number = (words: string) => Number(/[\d,]+/.exec(words)?.[0].replace(',', ''));

describe('a list of what is missing', () => {
  const KIND = 'Calls and meetings without an outcome';
  let waiting: number;

  it('is a hundred records long, with what is missing beside their names', async () => {
    const manager = person();
    await manager.signInAs('Maren Ollerby');
    await manager.goTo('/upkeep');
    await manager.read(KIND, '.upkeep-kinds');
    const link = `//li[contains(., "${KIND}")]//a`;
    const found = await manager.driver.findElement({ xpath: link });
    waiting = number(await found.getText());
    expect(waiting).toBeGreaterThanOrEqual(100);
    await found.click();
    await manager.read(`${waiting} activities`, '.page-head .page-count');
  });

  it('is put right line by line with the keyboard alone, without leaving it', async () => {
    const manager = person();
    await manager.see('.table-row');
    const left = async () => number(await manager.text('.page-head .page-count'));
    const editing = () =>
      manager.driver.executeScript<boolean>(`return !!document.querySelector('.fact-edit')`);
    await manager.press('j', Key.ARROW_RIGHT);
    for (let count = waiting; count > 0; count -= 1) {
      // Where one was put right, the next has moved up to its line.
      await manager.press('e');
      await manager.until('the outcome is asked for', editing);
      await manager.press('No answer', Key.ENTER);
      await manager.until(`${count - 1} are left`, async () =>
        count === 1 ? (await manager.count('.table-row')) === 0 : (await left()) === count - 1,
      );
    }
    await manager.goTo('/upkeep');
    await manager.read('Open deals', '.upkeep-kinds');
    expect(await manager.text('.upkeep-kinds')).not.toContain(KIND);
  }, 240_000);
});

describe('how ready each team is', () => {
  it('stands above its people for whoever sees several, each number opening what it counts', async () => {
    await nowAs('Bram Tideswell');
    const operations = person();
    await operations.goTo('/upkeep');
    await operations.read('Uplands & Farms', '.upkeep-people');
    const line = '//tr[contains(@class, "upkeep-team")][contains(., "Uplands & Farms")]//a';
    const figure = await operations.driver.findElement({ xpath: line });
    const count = number(await figure.getText());
    await figure.click();
    await operations.read(`${count} `, '.page-head .page-count');
  });
});

describe('a stage that is retired', () => {
  it('has its open deals moved as one change, and all of it undone as one', async () => {
    const operations = person();
    await nowAs('Bram Tideswell');
    await operations.goTo('/setup/pipelines');
    await operations.see('.pipeline');
    const row = '//tr[.//input[@aria-label="Name of the stage Survey booked"]]//td[@class="figure"]';
    const open = number(await operations.driver.findElement({ xpath: row }).getText());
    expect(open).toBeGreaterThan(1);
    await operations.clickAt('[aria-label="Retire Survey booked"]');
    await operations.click(`Retire it and move ${open} deals`);
    await operations.read('Survey booked, bring back', '.pipeline-retired');
    await operations.press('z');
    await operations.see('[aria-label="Name of the stage Survey booked"]');
    await operations.until('its deals stand in it again', async () => {
      const now = await operations.driver.findElement({ xpath: row }).getText();
      return number(now) === open;
    });
  });
});

describe('a deal that was lost', () => {
  const NAME = 'Ice on the weir';

  it('comes back on the day that is said for it', async () => {
    const rep = person();
    await nowAs('Tamsin Rudd');
    await rep.press('c', 'd');
    await rep.see('#name');
    await rep.type('#name', NAME);
    await rep.type('#value', '7200');
    await rep.type('#closeOn', '2026-12-18');
    await rep.press(Key.ENTER);
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    await rep.read(NAME, '.sheet h1, .sheet h2');
    await rep.press('l');
    await rep.see('.close-deal');
    await rep.click('Wrong time');
    await rep.type('.close-deal [aria-label="Try again on"] input', `20 Nov 2026${Key.ENTER}`);
    // Enter takes the day, and with it the form is complete.
    await rep.read('Lost: Wrong time', '.timeline');
    await rep.goTo('/');
    await rep.read(`Try again: ${NAME}`, '.today');
    expect(await rep.text('.today')).not.toContain('Reopen the deal');
  });

  it('is offered to be opened again on that day, with what was said', async () => {
    await stage.server.terminate();
    stage.server = await startZawn({ demo: true, folder: stage.server.folder, today: '2026-11-20' });
    stage.person = new Person(stage.browser.driver, stage.server.address);
    await nowAs('Tamsin Rudd');
    const rep = person();
    await rep.read(`Try again: ${NAME}`, '.today');
    await rep.click('Reopen the deal');
    await rep.read('Opened again once, had been lost: Wrong time', '.sheet');
  });

  it('is won by keyboard after all', async () => {
    const rep = person();
    await rep.press('w');
    await rep.until('the reasons have the focus', async () => (await rep.focused('class')).includes('chip'));
    await rep.press(Key.SPACE);
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    await rep.read('Won: ', '.timeline');
  });
});

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
    await manager.readNoMore(KIND, '.upkeep-kinds');
    // A hundred lines, each seen to be gone before the next: what one takes is up to the machine.
  }, 600_000);
});

describe('what follows from something else', () => {
  /** Opens the list of a kind with its first row chosen and the cell of what is missing. */
  const openKind = async (kind: string) => {
    const manager = person();
    await manager.goTo('/upkeep');
    await manager.read(kind, '.upkeep-kinds');
    await manager.driver.findElement({ xpath: `//li[contains(., "${kind}")]//a` }).click();
    await manager.see('.table-row [data-path]');
    await manager.press('j', Key.ARROW_RIGHT);
  };
  const count = async () => number(await person().text('.page-head .page-count'));
  const firstCell = (path: string) => person().text(`.table-row[aria-rowindex="2"] [data-path="${path}"]`);

  it('has its next step planned where a row says that there is none', async () => {
    const manager = person();
    await openKind('Open deals without a next step');
    const before = await count();
    await manager.press('e');
    await manager.until('what is to be done is asked for', async () =>
      (await manager.focused('aria-label')).includes('What'),
    );
    await manager.press('Ring about the gauges', Key.ENTER);
    await manager.until('one fewer is adrift', async () => (await count()) === before - 1);
    // The keyboard goes on with the row that moved up.
    await manager.press('e');
    await manager.see('.cell-part');
    await manager.press(Key.ESCAPE);
    await manager.until('it is closed', async () => (await manager.count('.cell-part')) === 0);
    await manager.until('it is one fewer', async () => (await count()) === before - 1);
  });

  it('has somebody named who decides', async () => {
    const manager = person();
    await openKind('nobody named who decides');
    const before = await count();
    await manager.press('e');
    await manager.until('a name is asked for', async () =>
      (await manager.focused('aria-label')).includes('Who'),
    );
    await manager.press('Ysolde Tremain');
    await manager.read('Add “Ysolde Tremain”, who is not on file');
    await manager.press(Key.ENTER);
    await manager.pressWith(Key.CONTROL, Key.ENTER);
    await manager.until('one more has someone who decides', async () => (await count()) === before - 1);
  });

  it('has its guide answered', async () => {
    const manager = person();
    await openKind('with guide items open');
    const before = Number(await firstCell('guideOpen'));
    await manager.press('e');
    await manager.see('.cell-part .guide .ant-checkbox-wrapper:not(.ant-checkbox-wrapper-checked)');
    await manager.clickAt('.cell-part .guide .ant-checkbox-wrapper:not(.ant-checkbox-wrapper-checked)');
    await manager.until('one item fewer is open', async () => {
      const now = await firstCell('guideOpen');
      return Number(now) === before - 1;
    });
    expect(before).toBeGreaterThan(1);
    await manager.press(Key.ESCAPE);
    await manager.until('it is closed', async () => (await manager.count('.cell-part')) === 0);
  });
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

describe('a pipeline that is retired', () => {
  it('asks where the open deals of each stage go, moves them as one change, and comes back with them', async () => {
    const operations = person();
    const openThere = () =>
      operations.driver.executeScript<string>(
        `return [...document.querySelectorAll('.pipeline [data-label="Open deals"]')].map((cell) => cell.textContent).join()`,
      );
    const before = await openThere();
    await operations.click('Retire the pipeline Service renewals');
    await operations.read('The open ones go to the pipeline', '.ant-modal');
    await operations.clickAt('.ant-modal .ant-btn-primary');
    await operations.read('went to “Station sales”', '.notice');
    await operations.read('Service renewals, bring back', '.pipelines > .pipeline-retired');
    await operations.press('z');
    await operations.until('its deals stand in it again', async () => (await openThere()) === before);
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
    await rep.readNoMore('Reopen the deal', '.today');
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

  it('has what was said about its end changed, without being opened again', async () => {
    const rep = person();
    await rep.click('Change what was said');
    await rep.type('#wonBecause', 'The weir froze');
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    await rep.read('The weir froze', '.sheet .record-head');
    await rep.until('nothing is asked any more', async () => (await rep.count('.close-deal')) === 0);
    await rep.read('Won on 20 Nov 2026', '.sheet .record-head');
  });
});

import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
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
/** A cell of the report's table by its row and column, both from 1. */
const cell = (row: number, column: number) =>
  manager.text(`.report-table tbody tr:nth-child(${row}) > :nth-child(${column})`);
const count = async () =>
  Number(/^[\d,]+/.exec(await manager.text('.report .page-count'))?.[0].replaceAll(',', ''));
/** Goes along the sentence by the arrow keys to the part that says something. */
const toToken = async (words: string) => {
  await manager.press(Key.ESCAPE, 'q');
  await manager.until(`the keyboard comes to “${words}”`, async () => {
    if ((await manager.focused('text')) === words) return true;
    await manager.press(Key.ARROW_RIGHT);
    return false;
  });
  await manager.press(Key.ENTER);
};
/** Looks at what the browser is handed to keep, on its way. */
const watchFiles = () =>
  manager.driver.executeScript(`
    window.taken = [];
    const before = URL.createObjectURL;
    URL.createObjectURL = (file) => {
      const entry = [file.type.split(';')[0], file.size, ''];
      void file.text().then((text) => { entry[2] = text.slice(0, 20000); });
      window.taken.push(entry);
      return before(file);
    };`);
const taken = () => manager.driver.executeScript<[string, number, string][]>('return window.taken');
const typeInto = async (label: string, words: string) => {
  await manager.until(`${label} has the focus`, async () => (await manager.focused('aria-label')) === label);
  await manager.press(...words, Key.ENTER);
};

describe('won this year against last', () => {
  it('is made from nothing, each word answered at once', async () => {
    await manager.signInAs('Maren Ollerby');
    await manager.goTo('/reports');
    await manager.click('New report');
    await manager.see('.report-drawing');
    const all = await count();
    await manager.clickToken('where…');
    await manager.pick('outcome');
    await manager.pick('won');
    await manager.press(Key.TAB);
    await manager.until('only won deals are counted', async () => (await count()) < all);
    // Those from fairs, and all that are worth so much.
    const won = await count();
    await manager.clickToken('and…');
    await manager.pick('any of');
    await manager.pick('source');
    await manager.pick('fair');
    await manager.press(Key.TAB);
    await manager.until('those of one source are counted', async () => (await count()) < won);
    const fromFairs = await count();
    await manager.clickToken('or…');
    await manager.pick('value');
    await manager.until('a value is asked for', async () =>
      (await manager.focused('aria-label')).startsWith('What value'),
    );
    await manager.press(...'10000', Key.ENTER);
    await manager.until('the others as well', async () => (await count()) > fromFairs);
    expect(await count()).toBeLessThan(won);
    await manager.clickToken('grouped by…');
    await manager.pick('closed on');
    await manager.read('closed on by month', '.sentence');
    await manager.clickToken('over a period…');
    await manager.pick('closed on');
    await manager.read('this fiscal year', '.sentence');
    await manager.read('1 Apr 2026 to 31 Mar 2027', '.report-days');
    await manager.clickToken('then by…');
    await manager.pick('account');
    await manager.see('.report-table .report-group');
  });

  it('has figures with names of their own, beside those of a year before', async () => {
    await manager.clickAt('[aria-label^="Figure a"]');
    await typeInto('What', 'sum of value');
    await manager.type('[aria-label="Called"]', 'Won');
    await manager.press(Key.TAB, Key.ESCAPE);
    await manager.read('Won', '.report-table thead');
    await manager.clickAt('[aria-label^="Another figure"]');
    await typeInto('What', 'Won, a year before');
    await manager.read('Won, a year before', '.report-table thead');
    await manager.clickAt('[aria-label^="Another figure"]');
    await typeInto('What', 'Change of Won against a year before, in percent');
    await manager.read('against 1 Apr 2025 to 31 Mar 2026', '.report-days');
    await manager.clickToken('exact');
    await manager.pick('in thousands');
    await manager.until('the sums are rounded', async () =>
      /^£[\d,]+k$/.test(await manager.text('.report-table tfoot td:nth-child(2)')),
    );
    expect(await manager.count('.report-drawing .bar-segment')).toBeGreaterThan(12);
  });

  it('calls the columns of its records what the team calls them', async () => {
    await manager.click('Columns');
    await manager.see('.columns-order');
    await manager.press(...'account', Key.ENTER);
    await manager.type('[aria-label="Account is called"]', 'Client');
    await manager.press(Key.ENTER, Key.ESCAPE);
    await manager.clickAt('.report-table tbody tr:nth-child(2) > :nth-child(2) a');
    await manager.read('Client', '.records-beside .table-head');
    await manager.clickAt('[aria-label="Close the records"]');
  });

  it('says how a figure was made', async () => {
    await manager.clickAt('[aria-label="How “Won” was made"]');
    await manager.read('Sum of value', '.how-made');
    await manager.read('with “closed on” from 1 Apr 2026 to 31 Mar 2027', '.how-made');
    await manager.press(Key.ESCAPE);
  });

  it('is kept and shared with the team, who see it and cannot change it', async () => {
    await manager.click('Save report');
    await manager.see('#view-name');
    await manager.press(...'Won by month and client');
    await manager.clickAt('.ant-radio-wrapper:nth-child(2)');
    await manager.click('Save report', '@class="ant-modal-footer"');
    await manager.read('Won by month and client', 'h1');
    await signInAs('Tamsin Rudd');
    await manager.goTo('/reports');
    await manager.read('Won by month and client', '[aria-label="Shared with me"]');
    await manager.clickAt('[aria-label="Shared with me"] a');
    await manager.see('.report-table');
    await manager.clickAt('[aria-label="Report actions"]');
    await manager.see('[role="menuitem"]');
    await manager.readNoMore('Rename and share', '.ant-dropdown-menu');
    await manager.press(Key.ESCAPE);
  });

  it('is changed later for all of them, and taken out as files', async () => {
    await signInAs('Maren Ollerby');
    await manager.goTo('/reports');
    await manager.clickAt('[aria-label="My own"] a');
    await manager.see('.report-drawing');
    await manager.clickToken('columns side by side');
    await manager.pick('a line');
    await manager.see('.report-drawing .line-path');
    await manager.click('Save', '@class="page-tools"');
    await manager.until(
      'nothing is left to save',
      async () => !(await manager.text('.page-count')).includes('changed'),
    );
    await watchFiles();
    for (const [index, name] of [
      'Workbook',
      'Figures, CSV',
      'Pages',
      'Drawing, PNG',
      'Drawing, SVG',
    ].entries()) {
      await manager.click('Export');
      await manager.choose(name);
      await manager.until(`${name} is taken out`, async () => (await taken()).length > index);
    }
    expect((await taken()).map(([type]) => type)).toEqual([
      'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      'text/csv',
      'application/pdf',
      'image/png',
      'image/svg+xml',
    ]);
    expect(Math.min(...(await taken()).map(([, size]) => size))).toBeGreaterThan(300);
  });

  it('leaves a dark screen in the colours of paper, and the screen as it is', async () => {
    await manager.driver.executeScript(`localStorage.setItem('zawn.theme', 'dark')`);
    await manager.driver.navigate().refresh();
    await manager.see('.report-drawing .line-path');
    const ink = () =>
      manager.driver.executeScript<string>(
        `return getComputedStyle(document.querySelector('.report-drawing text')).fill`,
      );
    const dark = await ink();
    await watchFiles();
    await manager.click('Export');
    await manager.choose('Drawing, SVG');
    await manager.until('it is taken out', async () => (await taken())[0]?.[2].startsWith('<svg'));
    const [[, , svg]] = await taken();
    expect(svg).not.toContain(dark);
    expect(svg).toMatch(/fill="rgb\(\d+, \d+, \d+\)"/);
    expect(await ink()).toBe(dark);
    await manager.driver.executeScript(`localStorage.setItem('zawn.theme', 'light')`);
    await manager.driver.navigate().refresh();
    await manager.see('.report-drawing .line-path');
    expect(await ink()).not.toBe(dark);
    expect(svg).toContain(`fill="${await ink()}"`);
  });
});

describe('the same by keyboard alone', () => {
  it('is asked, grouped, measured and read', async () => {
    await manager.goTo('/reports/new');
    await manager.see('.report-drawing');
    await toToken('where…');
    await manager.pick('outcome');
    await manager.pick('won');
    await manager.press(Key.TAB);
    await toToken('grouped by…');
    await manager.pick('owner');
    await manager.see('.report-table tbody tr:nth-child(2)');
    await toToken('Number of deals');
    await typeInto('What', 'sum of value');
    await manager.press(Key.ESCAPE);
    await manager.read('Sum of value', '.report-table thead');
    await toToken('in order of…');
    await manager.pick('highest');
    await manager.until('the largest comes first', async () => {
      const [first, second] = await Promise.all([cell(1, 2), cell(2, 2)]);
      const value = (text: string) => Number(text.replace(/\D/g, ''));
      return value(first) >= value(second) && value(second) > 0;
    });
  });
});

describe('a figure', () => {
  it('opens its records beside the report, down to one deal', async () => {
    await manager.goTo('/reports/pipeline-by-stage');
    await manager.see('.report-table tbody tr');
    const deals = Number(await cell(2, 2));
    await manager.clickAt('.report-table tbody tr:nth-child(2) > :nth-child(2) a');
    await manager.see('.records-beside .table-row');
    await manager.until('as many stand beside it', async () =>
      (await manager.text('.records-beside h2')).startsWith(`${deals} deal`),
    );
    await manager.clickAt('.records-beside header a');
    await manager.read('stage is', '.sentence');
    await manager.until('the list holds them', async () =>
      (await manager.text('.page-count')).startsWith(`${deals} `),
    );
    await watchFiles();
    await manager.click('Export');
    await manager.choose('As shown, XLSX');
    await manager.until('they are taken out', async () => (await taken()).length === 1);
    await manager.driver.navigate().back();
    await manager.see('.report-table tbody tr');
    await manager.clickAt('.report-drawing a');
    await manager.see('.records-beside .table-row');
    await manager.press(Key.ESCAPE);
    await manager.until('they are put away', async () => (await manager.count('.records-beside')) === 0);
  });

  it('is followed from the company to one deal, and back', async () => {
    await manager.goTo('/reports/from-the-company-down');
    const names = async () =>
      manager.driver.executeScript<string[]>(`
        return [...document.querySelectorAll('.report-table tbody th')]
          .map((cell) => cell.innerText)`);
    await manager.see('.report-table tbody tr');
    const [team] = await names();
    await manager.clickAt('.report-table tbody tr:first-child th a');
    await manager.read(team, '.way-down');
    await manager.until('its people are there', async () => !(await names()).includes(team));
    const [person] = await names();
    await manager.clickAt('.report-table tbody tr:first-child th a');
    await manager.read(person, '.way-down');
    await manager.until('the stages are there', async () => !(await names()).includes(person));
    const deals = Number(await cell(1, 4));
    await manager.clickAt('.report-table tbody tr:first-child th a');
    await manager.until('the deals are beside it', async () =>
      (await manager.text('.records-beside h2')).startsWith(`${deals} deal`),
    );
    await manager.clickAt('.way-down a');
    await manager.until('all of it is back', async () => (await names()).includes(team));
  });

  it('of other records stands beside, by the same owners, and opens those', async () => {
    await manager.goTo('/reports/closed-and-needed');
    await manager.read('Target', '.report-table thead');
    await manager.clickAt('.report-table tbody tr:nth-child(2) > :nth-child(3) a');
    await manager.read('1 target', '.records-beside h2');
    await manager.read('Davin Marchbank', '.records-beside .table-body');
    await manager.clickAt('[aria-label="Close the records"]');
    await manager.clickAt('[aria-label^="Figure target"]');
    await manager.read('Targets', '.figure-form');
    await manager.press(Key.ESCAPE);
  });

  it('that cannot be made says why, and where', async () => {
    const faulty = {
      version: 1,
      question: { version: 1, object: 'deal', groups: [] },
      figures: [{ key: 'a', formula: 'a / 2' }],
      draw: 'none',
    };
    await manager.goTo(`/reports/new?d=${encodeURIComponent(JSON.stringify(faulty))}`);
    await manager.read('“a” is made of itself');
    await manager.goTo('/reports/999999');
    await manager.read('This report is gone, or is not shared with you.');
  });
});

describe('how the pipeline moved', () => {
  it('adds up on the screen, and a pushed deal is followed up from it', async () => {
    const soon = { field: 'closeOn', is: 'before', value: '2026-11-15' };
    const asked = { from: '2026-08-20', to: '2026-11-19', by: 'owner', where: soon };
    await manager.goTo(`/reports/movement?m=${encodeURIComponent(JSON.stringify(asked))}`);
    await manager.see('.movement-step');
    const figures = await manager.driver.executeScript<string[]>(`
      return [...document.querySelectorAll('.report-table .report-all td')].map((cell) => cell.innerText)`);
    const amounts = figures.map((figure) => Number(figure.replace(/[^\d-]/g, '')) || 0);
    const end = amounts.pop() ?? NaN;
    // Each is rounded to a pound of its own.
    expect(Math.abs(amounts.reduce((sum, amount) => sum + amount, 0) - end)).toBeLessThan(amounts.length);
    await manager.clickAt('.report-all [aria-label^="All, Pushed out"]');
    await manager.read('→', '.movement-entries');
    await manager.clickAt('.movement-entries .link-button');
    await manager.see('.record');
    await manager.press('n');
    await manager.until(
      'what comes next is asked',
      async () => (await manager.focused('aria-label')) === 'What',
    );
    await manager.press(...'Ask why it waits');
    await manager.pressWith(Key.CONTROL, Key.ENTER);
    await manager.read('Ask why it waits', '.record');
  });

  it('is told month by month, and says what it judges as it is today', async () => {
    const where = { field: 'account.country', is: 'anyOf', value: ['SE'] };
    const asked = { from: '2026-08-20', to: '2026-11-19', where };
    await manager.goTo(`/reports/movement?m=${encodeURIComponent(JSON.stringify(asked))}`);
    await manager.read('Judged as it is today: account’s country is Sweden');
    await manager.clickAt('.page-tools .ant-select');
    await manager.choose('By month');
    await manager.read('Oct 2026', '.report-table');
    const ends = await manager.driver.executeScript<string[][]>(`
      return [...document.querySelectorAll('.report-table tbody tr:not(.report-all)')].map((row) =>
        [row.cells[1].innerText, row.cells[row.cells.length - 1].innerText]);`);
    expect(ends).toHaveLength(4);
    for (const [index, [start]] of ends.entries()) if (index > 0) expect(start).toBe(ends[index - 1][1]);
  });
});

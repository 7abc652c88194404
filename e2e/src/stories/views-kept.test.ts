import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let manager: Person;
beforeAll(() => {
  manager = stage.person;
});

const count = async () => Number(/^[\d,]+/.exec(await manager.text('.page-count'))?.[0].replaceAll(',', ''));
const counts = (what: string, holds: (now: number) => boolean) =>
  manager.until(what, async () => holds(await count()));
const headings = async () => {
  const found = await manager.driver.findElements({ css: '.table-head [role="columnheader"] button' });
  return Promise.all(found.map((heading) => heading.getText()));
};
/** Chooses what is done with the view on the screen. */
const act = async (name: string) => {
  await manager.clickAt('[aria-label="View actions"]');
  await manager.choose(name);
};

describe('a drawing', () => {
  it('opens the deals behind a cell of a pivot, and behind its edges', async () => {
    await manager.signInAs('Maren Ollerby');
    await manager.goTo('/deals?view=stages-by-owner');
    await manager.see('.pivot td a');
    const all = await count();
    const cell = await manager.see('.pivot tbody td:not(.pivot-edge) a');
    const value = await cell.getText();
    await cell.click();
    await manager.see('.table-row');
    await counts('a cell holds fewer deals', (now) => now > 0 && now < all);
    const words = await manager.sentence();
    expect(words).toContain('stage is');
    expect(words).toContain('owner is');
    await manager.driver.navigate().back();
    await manager.see('.pivot td a');
    expect(value).toMatch(/^£\d+k$/);
    await manager.clickAt('.pivot tfoot .pivot-edge a');
    await counts('the corner opens all of them', (now) => now === all);
    await manager.driver.navigate().back();
  });

  it('shows figures exactly when they are not rounded', async () => {
    await manager.see('.pivot td a');
    await manager.clickToken('in thousands');
    await manager.pick('exact');
    await manager.until('the corner is exact', async () =>
      /^£[\d,]{6,}$/.test(await manager.text('.pivot tfoot .pivot-edge')),
    );
  });

  it('of a line opens the records of a point', async () => {
    await manager.goTo('/activities?view=per-week');
    const point = await manager.see('.line-point');
    const words = String(
      await point.findElement({ xpath: './parent::*' }).then((link) => link.getAttribute('aria-label')),
    );
    const wanted = Number(/: (\d+) activit/.exec(words)?.[1]);
    await point.click();
    await manager.see('.table-row');
    await counts(`“${words}” opens that many`, (now) => now === wanted);
  });
});

describe('a table', () => {
  it('takes another column, from another record too, and moves it by keyboard', async () => {
    await manager.goTo('/deals?view=all-deals');
    await manager.see('.table-row');
    await manager.click('Columns');
    await manager.pick('account country');
    await manager.press(Key.ESCAPE);
    await manager.until('the column is there', async () => (await headings()).includes('Account’s country'));
    const before = await headings();
    const last = (await manager.driver.findElements({ css: '.table-head [role="columnheader"] button' })).at(
      -1,
    );
    await last?.sendKeys(Key.chord(Key.ALT, Key.ARROW_LEFT));
    await manager.until(
      'it stands one further left',
      async () => (await headings()).at(-2) === before.at(-1),
    );
  });

  it('keeps what is marked while it scrolls, and the first column in sight', async () => {
    await manager.goTo('/activities?view=all-activities');
    await manager.see('.table-row');
    await manager.press('j', 'x');
    await manager.driver.executeScript(`document.querySelector('.table').scrollTop = 40000`);
    await manager.until('rows far down are there', async () => {
      const row = await manager.see('.table-row:not(.table-waiting)');
      return Number(await row.getAttribute('aria-rowindex')) > 900;
    });
    await manager.read('1 activity', '.bulk-bar');
    await manager.driver.executeScript(`document.querySelector('.table').scrollTop = 0`);
    await manager.see('.table-row[aria-selected="true"]');
    await manager.press('A');
  });

  it('marks a range by Shift from its first row to its last, with the rows never scrolled past', async () => {
    await manager.goTo('/activities?view=all-activities');
    await manager.see('.table-row');
    const last = 1 + (await count());
    const mark = async (row: number, how: 'alone' | 'range') => {
      const box = await manager.see(`.table-row[aria-rowindex="${row}"] input[type="checkbox"]`);
      const mouse = manager.driver.actions();
      if (how === 'range') await mouse.keyDown(Key.SHIFT).click(box).keyUp(Key.SHIFT).perform();
      else await mouse.click(box).perform();
    };
    await mark(3, 'alone');
    await manager.driver.executeScript(`document.querySelector('.table').scrollTop = 1e9`);
    await manager.see(`.table-row[aria-rowindex="${last}"] input`);
    await mark(last, 'range');
    await manager.read(`${(last - 2).toLocaleString('en-GB')} activities`, '.bulk-bar');
    // The box that was clicked has the focus still; letters are shortcuts nevertheless.
    await manager.press('l');
    await manager.see('.pick-field');
    await manager.press(Key.ESCAPE, 'A');
  });

  it('folds a group and opens the records behind its head', async () => {
    await manager.goTo('/deals?view=closing');
    await manager.see('.group-head');
    const rows = await manager.count('.table-row:not(.table-group)');
    const inGroup = Number(await manager.text('.table-group .group-count'));
    await manager.clickAt('.table-group .group-fold');
    await manager.until(
      'its rows are gone',
      async () => (await manager.count('.table-row:not(.table-group)')) < rows || inGroup === 0,
    );
    await manager.clickAt('.table-group .group-count');
    await counts('the head’s count opens its deals', (now) => now === inGroup);
  });
});

describe('a view', () => {
  it('is narrowed to what another finds too', async () => {
    await manager.goTo('/accounts?view=all-accounts');
    await manager.see('.table-row');
    const all = await count();
    await manager.clickToken('combined with…');
    await manager.pick('keep only');
    await manager.read('keep only those also in', '.token-popover');
    await manager.pick('reference sites');
    await counts('only reference sites are left', (now) => now > 0 && now < all);
    await manager.until('the list stands in the sentence', async () =>
      (await manager.sentence()).includes('list is Reference sites'),
    );
  });

  it('is saved, opened first from now on, and deleted with a word on who uses it', async () => {
    await manager.click('Save view');
    await manager.type('#view-name', 'Worth a visit');
    await manager.click('Save view', '@role="dialog"');
    await manager.read('Worth a visit', '.view-name');
    await act('Open Accounts with this view');
    await manager.press('g', 'l');
    await manager.read('To work', '.view-name');
    await manager.press('g', 'a');
    await manager.read('Worth a visit', '.view-name');
    await act('Delete the view');
    await manager.read('Nobody else uses it.', '.ant-modal-confirm, .ant-modal');
    await manager.click('Delete view');
    await manager.read('All accounts', '.view-name');
    await manager.read('Deleted', '.notice');
    await manager.press('z');
    await manager.read('Worth a visit', '.view-name');
    await manager.until(
      'what was said is gone',
      async () => (await manager.count('[class*="fade-leave"]')) === 0,
    );
  });

  it('that is gone or not shared says so, and shows everything instead', async () => {
    await manager.goTo('/deals?view=999');
    await manager.read('A view that is gone', '.view-name');
    await manager.read('It was deleted, or is not shared with you.');
    await manager.see('.table-row');
  });

  it('with a field that is gone runs without that part, and says so', async () => {
    const where = {
      join: 'all',
      of: [
        { field: 'x_shoe', is: 'isEmpty' },
        { field: 'outcome', is: 'anyOf', value: ['open'] },
      ],
    };
    const design = { question: { version: 1, object: 'deal', where, columns: ['name'] }, draw: 'table' };
    await manager.goTo(`/deals?d=${encodeURIComponent(JSON.stringify(design))}`);
    await manager.see('.table-row');
    await manager.read('One part was left out: the field “x_shoe”, which is gone.', '.sentence');
  });
});

describe('the grid as a view', () => {
  it('follows the sentence', async () => {
    await manager.goTo('/deals');
    await manager.see('.strip');
    const all = await manager.count('.strip');
    await manager.clickToken('and…');
    await manager.pick('value');
    await manager.type('.pick-numbers input', '50000');
    await manager.press(Key.ENTER);
    await manager.until('only large deals stand there', async () => {
      const now = await manager.count('.strip');
      return now > 0 && now < all;
    });
  });
});

describe('what activities say', () => {
  it('is gone to from anywhere', async () => {
    await manager.goTo('/bin');
    await manager.see('.empty');
    await manager.press('/');
    for (const letter of 'decides') await manager.press(letter);
    await manager.read('Activities that say “decides”', '.go-anywhere-list');
    await manager.choose('FindActivities that say');
    await manager.see('.table-row');
    await manager.until('the words stand in the sentence', async () =>
      (await manager.sentence()).includes('what contains “decides”'),
    );
  });
});

describe('a rep', () => {
  it('is not offered what a rep may not do', async () => {
    await manager.signOut();
    await manager.signInAs('Tamsin Rudd');
    await manager.press('g', 'c');
    await manager.see('.table-row');
    expect(await manager.text('.page-tools')).not.toContain('Export');
    await manager.clickAt('[aria-label="View actions"]');
    await manager.read('Save as a new view', '.ant-dropdown');
    expect(await manager.text('.ant-dropdown')).not.toContain('Delete');
  });
});

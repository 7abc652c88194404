import { Key } from 'selenium-webdriver';
import { setStage } from './stage';

const stage = setStage();
const person = () => stage.person;

const WHAT = '[aria-label="What is sold, another line"]';
const QUANTITY = '[aria-label="Quantity, another line"]';
const PRICE = '[aria-label="Price each, another line"]';

describe('what a deal is worth', () => {
  it('is sold from products that operations list', async () => {
    const operations = person();
    await operations.signInAs('Bram Tideswell');
    await operations.goTo('/setup/products');
    await operations.type('[aria-label="Code of another product"]', 'SN-1');
    await operations.type('[aria-label="Name of another product"]', 'Snow pillow');
    await operations.type('[aria-label="Unit price of another product"]', '1350');
    await operations.click('Add', 'contains(@class, "product-add")');
    await operations.until('it is in the list', async () =>
      operations.driver.executeScript<boolean>(
        `return !!document.querySelector('[aria-label="Name of Snow pillow"]')`,
      ),
    );
  });

  it('is put together line by line with the keyboard, and counts once that is said', async () => {
    const rep = person();
    await rep.press('c', 'd');
    await rep.see('#name');
    await rep.type('#name', 'Snow for the pass');
    await rep.type('#value', '9000');
    await rep.type('#closeOn', '2026-12-18');
    await rep.press(Key.ENTER);
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    await rep.read('Snow for the pass', '.sheet h1, .sheet h2');
    await rep.click('Value line by line');
    await rep.type(WHAT, 'snow p');
    await rep.choose('Snow pillow');
    await rep.type(QUANTITY, '4');
    await rep.press(Key.ENTER);
    await rep.read('£5,400', '.value-part');
    await rep.type(WHAT, 'Carrying it up');
    await rep.press(Key.TAB);
    await rep.type(QUANTITY, '1.5');
    await rep.press(Key.TAB);
    await rep.type(PRICE, '400');
    await rep.press(Key.ENTER);
    await rep.read('£6,000', '.value-part tfoot');
    await rep.read('The value, £9,000, is typed in.', '.value-from');
    await rep.click('Let the lines count: £6,000');
    await rep.read('from its lines', '.sheet .record-head');
    await rep.read('£6,000', '.sheet .record-value');
    await rep.press('z');
    await rep.read('£9,000', '.sheet .record-value');
    await rep.click('Let the lines count: £6,000');
    await rep.read('£9,000 was typed in before', '.value-from');
  });

  it('is won against a competitor and renewed once, with its lines', async () => {
    const rep = person();
    await rep.press('w');
    await rep.click('Close as won at £6,000');
    await rep.read('Won on', '.sheet .record-head');
    await rep.click('Begin the renewal');
    await rep.read('Renewal: Snow for the pass', '.sheet h1, .sheet h2');
    await rep.read('Renews Snow for the pass', '.sheet .record-head');
    await rep.until('its lines came along', async () =>
      rep.driver.executeScript<boolean>(
        `return [...document.querySelectorAll('.value-part input')].some((each) => each.value === 'Snow pillow')`,
      ),
    );
    await rep.click('Snow for the pass');
    await rep.read('Renewed by Renewal: Snow for the pass', '.sheet .record-head');
  });

  it('is known of each competitor: how many were won and lost, and why', async () => {
    const manager = person();
    await manager.goTo('/competitors');
    await manager.click('Pentrose Metering');
    await manager.read('Win rate', '.competitor-figures');
    const lost = Number(
      await manager.driver.executeScript<string>(
        `return [...document.querySelectorAll('.competitor-figures div')]
           .find((each) => each.textContent.startsWith('Lost')).querySelector('a').textContent`,
      ),
    );
    expect(lost).toBeGreaterThan(0);
    const reasons = await manager.driver.executeScript<number[]>(
      `return [...document.querySelectorAll('section[aria-label="Lost because"] b')].map((each) => Number(each.textContent))`,
    );
    expect(reasons.reduce((sum, each) => sum + each, 0)).toBe(lost);
    await manager.driver.executeScript(
      `[...document.querySelectorAll('.competitor-figures div')]
         .find((each) => each.textContent.startsWith('Lost')).querySelector('a').click()`,
    );
    await manager.read(`${lost} `, '.page-head .page-count');
  });
});

describe('several deals of the grid', () => {
  it('are marked and moved together, and go back together', async () => {
    const rep = person();
    await rep.goTo('/deals');
    await rep.see('.strip');
    const cells = async (ids: readonly string[]) =>
      rep.driver.executeScript<(string | null)[]>(
        `return arguments[0].map((id) => document.querySelector('[data-deal="' + id + '"]')?.closest('[data-cell]').dataset.cell)`,
        ids,
      );
    const ids = await rep.driver.executeScript<string[]>(
      `const strips = [...document.querySelectorAll('[data-cell^="1|"] .strip')];
       const open = strips.filter((each) => !each.closest('[data-cell]').dataset.cell.endsWith('overdue'));
       open[0].querySelector('.strip-main').focus();
       return [open[0].dataset.deal, open[1].dataset.deal];`,
    );
    const before = await cells(ids);
    await rep.press('x');
    await rep.driver.executeScript(
      `document.querySelector('[data-deal="' + arguments[0] + '"] .strip-main').focus()`,
      ids[1],
    );
    await rep.press('x');
    await rep.read('2 deals marked.', '.grid-marked');
    await rep.press(Key.ARROW_UP);
    await rep.read('Moved 2 deals', '.notice');
    // A full cell shows the first of its strips only.
    await rep.until('neither is where it was', async () =>
      (await cells(ids)).every((cell, at) => cell !== before[at] && (cell ?? '2|').startsWith('2|')),
    );
    await rep.press('z');
    await rep.until('both are back', async () => (await cells(ids)).every((cell, at) => cell === before[at]));
    await rep.click('Take the marks away');
    await rep.until('no row is marked', async () => (await rep.count('.grid-marked')) === 0);
  });
});

import { Key } from 'selenium-webdriver';
import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let rep: Person;
let operations: Person;
let second: Browser;

beforeAll(async () => {
  rep = stage.person;
  second = await openBrowser();
  operations = new Person(second.driver, stage.server.address);
});
afterAll(() => second.quit());

/** A deal in the first stage. */
const NAME = 'Norderlund';
const cellOf = () =>
  rep.driver.executeScript<string | undefined>(
    `return [...document.querySelectorAll('.strip')]
       .find((strip) => strip.textContent.includes('${NAME}'))?.closest('[data-cell]').dataset.cell`,
  );
const strip = () =>
  rep.driver.executeScript<string>(
    `return [...document.querySelectorAll('.strip')].find((each) => each.textContent.includes('${NAME}')).dataset.deal`,
  );

describe('a deal that a guide leads', () => {
  it('is asked by what operations say in Setup', async () => {
    await operations.signInAs('Bram Tideswell');
    await operations.goTo('/setup/pipelines');
    await operations.clickAt('[aria-label^="Guide of Enquiry checked"]');
    await operations.type('[aria-label="What is to be ticked"]', 'Asked who signs');
    await operations.clickAt('.stage-guide-add .ant-checkbox-wrapper');
    await operations.clickAt('[aria-label="Ask this in Enquiry checked"]');
    await operations.read('Asked who signs', '.stage-guide');
    await rep.signInAs('Tamsin Rudd');
    await rep.goTo('/deals');
    await rep.see('.strip');
    await rep.until('its strip is there', async () => (await cellOf())?.startsWith('1|') ?? false);
  });

  it('is held up on the way, asked for what is required, and goes on once that is answered', async () => {
    const id = await strip();
    const [, month] = String(await cellOf()).split('|');
    await rep.drag(`[data-deal="${id}"] .strip-main`, `[data-cell="2|${month}"]`);
    await rep.read('cannot go on yet. Still to do: Asked who signs', '.notice-problem');
    await rep.read('Asked who signs', '.sheet .guide');
    await rep.until('it stands where it was', async () => (await cellOf()) === `1|${month}`);
    await rep.read('Before it goes on to Survey booked: 1 required item still open.', '.guide-go-on');
    await rep.clickAt('.guide li:has(.guide-needed) .ant-checkbox-wrapper');
    await rep.read('Ticked “Asked who signs”', '.notice');
    await rep.read('Nothing holds it up any more.', '.guide-go-on');
    // The move that was made with the mouse is made now, not again.
    await rep.click('Move to Survey booked');
    await rep.read('Stage moved from Enquiry checked to Survey booked', '.timeline');
    await rep.read('Survey booked', '.sheet .guide h3');
  });

  it('is taken back and forth by keyboard alone, and answered there', async () => {
    await rep.press(Key.ESCAPE);
    await rep.until('the sheet is closed', async () => (await rep.count('.sheet')) === 0);
    const at = async (line: number) => (await cellOf())?.startsWith(`${line}|`) ?? false;
    const toStrip = () =>
      rep.driver.executeScript(
        `[...document.querySelectorAll('.strip')].find((each) => each.textContent.includes('${NAME}')).querySelector('.strip-main').focus()`,
      );
    await toStrip();
    await rep.press(Key.ARROW_DOWN);
    await rep.until('it went back, held up by nothing', () => at(1));
    // What was ticked is ticked no more, and asked for again on the way.
    await toStrip();
    await rep.press(Key.ENTER);
    await rep.clickAt('.guide .guide-done .ant-checkbox-wrapper');
    await rep.see('.guide li .guide-needed');
    await rep.press(Key.ESCAPE);
    await toStrip();
    await rep.press(Key.ARROW_UP);
    await rep.read('Before it goes on to Survey booked: 1 required item still open.', '.guide-go-on');
    await rep.until('that has the focus', async () => (await rep.focused('class')).includes('guide-go-on'));
    const tabTo = async (what: string, key: string, isThere: () => Promise<boolean>) => {
      for (let count = 0; count < 12 && !(await isThere()); count += 1) await rep.press(key);
      await rep.until(what, isThere);
    };
    const isItem = () =>
      rep.driver.executeScript<boolean>(
        `return !!document.activeElement.closest('.guide li')?.textContent.includes('Asked who signs')`,
      );
    await tabTo('the item has the focus', Key.TAB, isItem);
    await rep.press(Key.SPACE);
    await rep.read('Nothing holds it up any more.', '.guide-go-on');
    const isButton = async () => (await rep.focused('text')) === 'Move to Survey booked';
    await rep.driver.executeScript(`document.querySelector('.guide-go-on').focus()`);
    await tabTo('the button has the focus', Key.TAB, isButton);
    await rep.press(Key.ENTER);
    await rep.until('it went on', () => at(2));
    await rep.read('Survey booked', '.sheet .guide h3');
  });

  it('knows who decides, also somebody who was not on file', async () => {
    await rep.read('Nobody who decides is named', '.who-decides');
    await rep.click('Somebody with a part in it');
    await rep.see('.add-to-decision');
    await rep.press('Perran Holt');
    await rep.choose('Add “Perran Holt”');
    await rep.click('Add them as a contact and name them here');
    await rep.read('Perran Holt', '.who-decides li');
    await rep.read('Perran Holt, who decides, was never spoken to', '.who-decides');
  });

  it('is lost with a day to try again, opened again with what was said, and won by keyboard', async () => {
    await rep.press('l');
    await rep.see('.close-deal');
    await rep.click('Wrong time');
    await rep.clickAt('.ant-select:has([aria-label="Lost to"])');
    await rep.press('Pentrose');
    await rep.choose('Pentrose Metering');
    await rep.click('Close as lost');
    await rep.read('Wrong time, to Pentrose Metering', '.sheet .record-head');
    await rep.click('Reopen');
    await rep.read('Opened again once, had been lost: Wrong time', '.sheet');
    await rep.press('w');
    await rep.until('the reasons have the focus', async () => (await rep.focused('class')).includes('chip'));
    await rep.press(Key.SPACE);
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    await rep.read('Won: Price', '.timeline');
  });
});

describe('a lead that a guide leads', () => {
  it('is asked by what operations say of its status', async () => {
    await operations.goTo('/setup/choices?list=leadStatus');
    await operations.clickAt('.status-guides details summary');
    await operations.clickAt('.status-guides [open] .ant-select');
    await operations.choose('A field to fill in');
    await operations.clickAt('.status-guides [open] .ant-select:has([aria-label="What it is about"])');
    await operations.press('Interest');
    await operations.choose('Interest');
    await operations.clickAt('.status-guides [open] .stage-guide-add .ant-checkbox-wrapper');
    await operations.clickAt('[aria-label="Ask this in Untouched"]');
    await operations.read('Interest', '.status-guides [open] ol');
  });

  it('is held up where its status is changed, and where it is converted, and answered in place', async () => {
    await rep.goTo('/leads?view=all-leads');
    await rep.see('.table-row');
    await rep.click('Lead', 'contains(@class, "page-tools")');
    await rep.type('#name', 'Jory Trembath');
    await rep.click('Create lead');
    await rep.read('Jory Trembath', '.record');
    await rep.clickAt('.record [data-field="status"]');
    await rep.choose('Working');
    await rep.read('Still to do: Interest', '.fact-complaint');
    await rep.click('Answer it');
    await rep.read('Before it goes on to Working: 1 required item still open.', '.guide-go-on');
    await rep.click('Leave it where it is');
    await rep.click('Convert');
    await rep.see('.convert');
    await rep.clickAt('.convert button[type="submit"]');
    await rep.read('Before it is converted: 1 required item still open.', '.guide-go-on');
    await rep.clickAt('.guide [data-field="interest"]');
    await rep.press('Water level', Key.ENTER);
    await rep.read('Nothing holds it up any more.', '.guide-go-on');
    await rep.click('Convert', 'contains(@class, "guide-go-on")');
    await rep.see('.convert');
    await rep.clickAt('.convert button[type="submit"]');
    await rep.read('Converted “Jory Trembath”', '.notice');
  });
});

describe('upkeep', () => {
  it('counts what is missing, and opens exactly those records', async () => {
    await rep.goTo('/upkeep');
    await rep.read('ready for reports', '.upkeep');
    const words = await rep.text('.upkeep-kinds li:first-child');
    const count = Number(/\d+/.exec(words)?.[0]);
    expect(count).toBeGreaterThan(0);
    await rep.clickAt('.upkeep-kinds li:first-child a');
    await rep.read(`${count} `, '.page-head .page-count');
  });
});

describe('the stages side by side', () => {
  it('hold the same deals, moved by the keys, and are kept as the arrangement', async () => {
    await rep.goTo('/deals');
    await rep.see('.strip');
    await rep.clickAt('.grid-arrangement .ant-segmented-item:last-child');
    await rep.see('.stage-columns .strip');
    const id = await rep.driver.executeScript<string>(
      `const one = document.querySelector('.stage-column:nth-child(2) .strip');
       one.querySelector('.strip-main').focus();
       return one.dataset.deal;`,
    );
    await rep.press(Key.ARROW_LEFT);
    await rep.until('it stands a stage before', async () =>
      rep.driver.executeScript<boolean>(
        `return !!document.querySelector('.stage-column:nth-child(1) [data-deal="${id}"]')`,
      ),
    );
    await rep.press('z');
    await rep.goTo('/deals');
    await rep.see('.stage-columns .strip');
    await rep.clickAt('.grid-arrangement .ant-segmented-item:first-child');
    await rep.see('.grid .strip');
  });
});

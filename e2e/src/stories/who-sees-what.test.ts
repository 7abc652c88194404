import { Key } from 'selenium-webdriver';
import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(120_000);

let server: ZawnServer;
const browsers: Browser[] = [];
let bram: Person;
let tamsin: Person;

async function atBrowser(name: string): Promise<Person> {
  const browser = await openBrowser();
  browsers.push(browser);
  const person = new Person(browser.driver, server.address);
  await person.signInAs(name);
  return person;
}

beforeAll(async () => {
  server = await startZawn({ demo: true });
  bram = await atBrowser('Bram Tideswell');
  tamsin = await atBrowser('Tamsin Rudd');
});
afterAll(async () => {
  for (const browser of browsers) await browser.quit();
  await server.stop();
});

/** Puts the keyboard on a cell of the table of a role. */
const toCell = async (label: string) => {
  await bram.see(`[aria-label^="${label}"]`);
  await bram.driver.executeScript(`document.querySelector('[aria-label^="${label}"]').focus()`);
};
/** How many open deals a page says there are. */
const openDeals = async () => Number(/^[\d,]+/.exec(await tamsin.text('.page-count'))?.[0].replace(',', ''));
const openDealsAre = (what: string, holds: (count: number) => boolean) =>
  tamsin.until(what, async () => holds(await openDeals().catch(() => Number.NaN)));

describe('who sees what', () => {
  let own = 0;
  let all = 0;

  it('is a table that the keyboard fills, with what a change comes to beside it', async () => {
    await tamsin.goTo('/deals');
    await tamsin.read('open in the grid', '.page-count');
    own = await openDeals();
    await bram.goTo('/setup/roles?role=rep');
    await toCell('Deals, See');
    await bram.press('5');
    await bram.see('[aria-label="Deals, See: All, changed"]');
    await bram.read('Tamsin Rudd', '.role-foot');
    await bram.read('→ 500', '.role-foot');
    await bram.press(Key.ARROW_UP, Key.ARROW_RIGHT, Key.ARROW_DOWN);
    await bram.until('the keyboard is a cell further', async () => {
      const label = await bram.driver.executeScript<string>('return document.activeElement.ariaLabel');
      return label.startsWith('Deals, Add');
    });
    // No wider than what is seen.
    await toCell('Accounts, Edit');
    await bram.press('5');
    await bram.see('[aria-label="Accounts, Edit: Own and shared"]');
  });

  it('is kept, and felt at once in a browser that is open', async () => {
    await bram.click('Keep');
    await openDealsAre('more deals are seen', (count) => count > own);
    all = await openDeals();
  });

  it('is narrowed for one stage, in words, and felt again', async () => {
    await bram.see('[aria-label="Deals, See: All"]');
    await bram.click('Exception');
    await bram.clickToken('where…');
    await bram.pick('Stage');
    await bram.pick('Proposal');
    await bram.press(Key.ESCAPE);
    await bram.read('See deals', '.role-foot');
    await bram.click('Keep');
    await openDealsAre('fewer deals are seen', (count) => count < all && count > own);
  });

  it('is told of one person, and of one record with the rule that decides', async () => {
    await bram.goTo('/setup/people');
    await bram.clickAt('[aria-label="Actions for Tamsin Rudd"]');
    await bram.choose('What can they see?');
    await bram.read('Rep: no deals where stage is', '.reach-counts');
    await bram.read('Rep: all deals', '.reach-counts');
    await bram.type('.reach-one input', 'Seagrave');
    await bram.clickAt('.ant-select-dropdown .ant-select-item-option');
    await bram.read('Tamsin Rudd may', '.verdicts');
    await bram.read('Rep:', '.verdicts');
  });

  it('is of what is set up too: looked at, and not changed', async () => {
    await bram.goTo('/setup/roles?role=rep');
    await bram.see('.role-setup');
    const pipelines = '[aria-label="Set up pipelines and stages: edit"]';
    await bram.driver.executeScript(
      `document.querySelector('.role-setup').scrollIntoView({ block: 'center' })`,
    );
    await bram.clickAt(`.role-setup tr:has(${pipelines}) th .ant-checkbox-wrapper`);
    await bram.clickAt(`.role-setup td:has(${pipelines}) .ant-checkbox-wrapper`);
    await bram.read('Set up pipelines and stages', '.role-foot');
    await bram.click('Keep');
    await bram.until('it is kept', async () => (await bram.count('.role-foot')) === 0);
    await tamsin.goTo('/setup/pipelines');
    await tamsin.read('Your role lets you look at this, not change it.', 'main');
    await tamsin.see('[aria-label="Retire Survey booked"]:disabled');
    await tamsin.type('[aria-label="Name of another stage of Station sales"]', `Site visit${Key.ENTER}`);
    await tamsin.see('[aria-label="Name of the stage Site visit"]');
  });

  it('is widened by sharing one record, until that is taken back', async () => {
    const lars = await atBrowser('Lars Westerholt');
    await lars.goTo('/accounts');
    await lars.see('.table-row');
    const ofLars = await lars.text('.page-count');
    await tamsin.goTo('/accounts');
    await tamsin.see('.table-row');
    await tamsin.clickAt('.table-row');
    await tamsin.clickAt('.sheet-bar [aria-label="More"]');
    await tamsin.choose('Share account');
    await tamsin.clickAt('.share-form .ant-select');
    await tamsin.choose('Lars Westerholt');
    await tamsin.clickAt('.share-form [type=submit]');
    await tamsin.read('Lars Westerholt', '.shares');
    await lars.until('another account is seen', async () => (await lars.text('.page-count')) !== ofLars);
    await tamsin.clickAt('[aria-label="Share it no longer"]');
    await lars.read(ofLars, '.page-count');
  });
});

import { Key } from 'selenium-webdriver';
import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let rep: Person;
let manager: Person;
let second: Browser;

beforeAll(async () => {
  rep = stage.person;
  second = await openBrowser();
  manager = new Person(second.driver, stage.server.address);
});
afterAll(() => second.quit());

describe('two people on one record', () => {
  it('see each other’s changes without asking', async () => {
    await rep.signInAs('Tamsin Rudd');
    await rep.goTo('/accounts');
    await rep.clickAt('.table-row');
    await rep.see('.facts');
    const address = await rep.driver.getCurrentUrl();
    await manager.signInAs('Maren Ollerby');
    await manager.driver.get(address);
    await manager.clickAt('[data-field="street"]');
    await manager.driver
      .switchTo()
      .activeElement()
      .sendKeys(Key.chord(Key.CONTROL, 'a'), '7 Tide Mill', Key.ENTER);
    await manager.read('7 Tide Mill', '[data-field="street"]');
    await rep.read('7 Tide Mill', '[data-field="street"]');
    await rep.read('now 7 Tide Mill', '.timeline');
  });

  it('the second to save keeps what they typed and is told', async () => {
    await rep.clickAt('[data-field="postcode"]');
    // The manager is quicker; what the rep has typed so far stays.
    await rep.driver.switchTo().activeElement().sendKeys('TM1');
    await rep.driver.executeScript(`
      const original = window.fetch;
      window.fetch = (address, options) => {
        if (options?.method === 'PATCH') options.headers['If-Match'] = '"1"';
        window.fetch = original;
        return original(address, options);
      };`);
    await rep.press(Key.ENTER);
    await rep.read('Someone changed this record meanwhile', '.sheet');
    await rep.press(Key.ENTER);
    await rep.read('TM1', '[data-field="postcode"]');
  });
});

describe('whoever is given a lead', () => {
  it('hears of it within two seconds, wherever they are', async () => {
    await rep.goTo('/deals');
    await rep.see('.strip');
    const owner = await rep.driver.executeAsyncScript<number>(
      `const done = arguments[0]; fetch('/api/v1/session').then((answer) => answer.json()).then(({ me }) => done(me.id));`,
    );
    // A colleague adds the lead in a window of their own.
    const added = await manager.driver.executeAsyncScript<number>(
      `const [owner, done] = arguments;
       (async () => {
         const { csrf } = await (await fetch('/api/v1/session')).json();
         const headers = { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf };
         const body = JSON.stringify({ name: 'Zelda Farreach', organisation: 'Farreach Weir', phone: '01632 960555', status: 'untouched', owner });
         const answer = await fetch('/api/v1/leads', { method: 'POST', headers, body });
         done(answer.status);
       })();`,
      owner,
    );
    expect(added).toBe(201);
    const started = Date.now();
    await rep.read('New lead: Zelda Farreach, Farreach Weir · +441632960555', '.notice');
    expect(Date.now() - started).toBeLessThan(2000);
    await rep.see('[aria-label="Notices, 1 unread"]');
    await rep.press('g', 'n');
    await rep.click('New lead: Zelda Farreach, Farreach Weir · +441632960555', 'contains(@class, "notices")');
    await rep.read('Zelda Farreach', '.sheet');
    await rep.see('[aria-label="Notices"]');
  });
});

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

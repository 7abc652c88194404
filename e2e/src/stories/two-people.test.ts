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

/** Opens a fact and types over what it holds. */
const typeOver = async (who: Person, field: string, text: string) => {
  await who.clickAt(`[data-field="${field}"]`);
  await who.until(`${field} is open`, async () => (await who.count('.fact-edit')) > 0);
  await who.driver.switchTo().activeElement().sendKeys(Key.chord(Key.CONTROL, 'a'), text);
};

describe('two people on one record', () => {
  it('see each other’s changes without asking', async () => {
    await rep.signInAs('Tamsin Rudd');
    await rep.goTo('/accounts');
    await rep.clickAt('.table-row');
    await rep.see('.facts');
    const address = await rep.driver.getCurrentUrl();
    await manager.signInAs('Maren Ollerby');
    await manager.driver.get(address);
    await typeOver(manager, 'street', '7 Tide Mill');
    await manager.press(Key.ENTER);
    await manager.read('7 Tide Mill', '[data-field="street"]');
    await rep.read('7 Tide Mill', '[data-field="street"]');
    await rep.read('now 7 Tide Mill', '.timeline');
  });

  it('keep what both typed into different fields, and the second sees what the first changed', async () => {
    await typeOver(rep, 'postcode', 'TM1');
    await typeOver(manager, 'street', '8 Tide Mill');
    await manager.press(Key.ENTER);
    await rep.read('Street 7 Tide Mill → 8 Tide Mill', '.fact-meanwhile');
    await rep.press(Key.ENTER);
    await rep.read('TM1', '[data-field="postcode"]');
    await rep.read('8 Tide Mill', '[data-field="street"]');
    await rep.read('Street 7 Tide Mill → 8 Tide Mill', '.fact-meanwhile');
    await manager.read('TM1', '[data-field="postcode"]');
  });

  it('keep both even where the second hears of it only by saving', async () => {
    await typeOver(rep, 'postcode', 'TM2');
    // As if the change had been made while the news of it was still on its way.
    await rep.driver.executeScript(`
      const original = window.fetch;
      window.fetch = (address, options) => {
        if (options?.method === 'PATCH') options.headers['If-Match'] = '"1"';
        window.fetch = original;
        return original(address, options);
      };`);
    await rep.press(Key.ENTER);
    await rep.read('TM2', '[data-field="postcode"]');
  });

  it('choose whose word stands where both wrote into the same field', async () => {
    await typeOver(rep, 'street', '9 Tide Mill');
    await typeOver(manager, 'street', '10 Tide Mill');
    await manager.press(Key.ENTER);
    await rep.read('8 Tide Mill → 10 Tide Mill', '.fact-meanwhile');
    await rep.press(Key.ENTER);
    await rep.click('Keep mine');
    await rep.read('9 Tide Mill', '[data-field="street"]');
    await manager.read('9 Tide Mill', '[data-field="street"]');
  });
});

const openNote = async () => {
  await rep.click('Note');
  await rep.see('.note-text');
  await rep.until('the note has the focus', async () => (await rep.focused('class')).includes('note-text'));
};

describe('whoever goes on while a field is still being saved', () => {
  it('is not taken out of what is being written', async () => {
    await typeOver(rep, 'street', '11 Tide Mill');
    await rep.driver.executeScript(`
      const original = window.fetch;
      window.fetch = async (address, options) => {
        if (options?.method !== 'PATCH') return original(address, options);
        window.fetch = original;
        await new Promise((resolve) => { window.saveNow = resolve; });
        return original(address, options);
      };`);
    await rep.press(Key.ENTER);
    await openNote();
    await rep.press(...'Call again');
    await rep.driver.executeScript('window.saveNow()');
    await manager.read('11 Tide Mill', '[data-field="street"]');
    await rep.until('the field is saved', async () => (await rep.count('[data-field="street"] input')) === 0);
    await rep.press(...' on Friday');
    await rep.read('Call again on Friday', '.note-text');
    await rep.press(Key.ESCAPE);
    await rep.until('the note is closed', async () => (await rep.count('.note-text')) === 0);
  });

  it('goes on typing while the rest of the page is still fetched', async () => {
    const address = await manager.driver.getCurrentUrl();
    await second.slowDown();
    await manager.driver.get(address);
    // As soon as the field is there, without waiting for the rest.
    await manager.see('[data-field="street"]');
    await manager.driver.executeScript(`document.querySelector('[data-field="street"]').click()`);
    await manager.driver.switchTo().activeElement().sendKeys(Key.chord(Key.CONTROL, 'a'), '12 Ti');
    await manager.see('.entry');
    await manager.until('everything is there', async () => {
      const fetched = 'return performance.getEntriesByType("resource").length';
      const before = await manager.driver.executeScript<number>(fetched);
      await manager.driver.sleep(1500);
      return before === (await manager.driver.executeScript<number>(fetched));
    });
    await manager.press(...'de Mill', Key.ENTER);
    await manager.read('12 Tide Mill', '[data-field="street"]');
    await rep.read('12 Tide Mill', '[data-field="street"]');
  });
});

describe('whoever is mentioned in a note', () => {
  it('hears of it, and the note is read as it was written', async () => {
    await openNote();
    await rep.press(...'Ask @maren');
    await rep.read('Maren Ollerby', '.mention-list');
    await rep.press(Key.ENTER);
    await rep.click('Bold');
    await rep.press(...'before Friday');
    await rep.click('Save note');
    await rep.read('Ask @Maren Ollerby before Friday', '.timeline .entry-note');
    expect(await rep.text('.timeline .entry-note b')).toBe('before Friday');
    await rep.click('Pin');
    await rep.read('before Friday', '.pinned-notes');
    await manager.see('[aria-label="Notices, 1 unread"]');
    await manager.press('g', 'n');
    await manager.read('Tamsin Rudd mentioned you on', '.notices');
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

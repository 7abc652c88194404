import { Key } from 'selenium-webdriver';
import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { send, signIn } from '../wire';
import { FIXED_DAY, startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(180_000);

let server: ZawnServer;
let browser: Browser;
let rep: Person;

beforeAll(async () => {
  // Five seconds of the phone stand-in in one, on a weekday at work: time to take a call on a busy machine.
  process.env.ZAWN_PHONE_PACE = '5';
  server = await startZawn({ demo: true, today: `${FIXED_DAY}T10:20:00.000Z` });
  browser = await openBrowser();
  rep = new Person(browser.driver, server.address);
});
afterAll(async () => {
  delete process.env.ZAWN_PHONE_PACE;
  await browser.quit();
  await server.stop();
});

const standing = () => rep.text('.call-standing');
/** Hangs up, unless they were faster. */
async function endCall(): Promise<void> {
  await rep.until('the call has ended', async () => {
    if (/Ringing|Talking|Voicemail/.test(await standing())) await rep.press('h');
    return (await rep.count('.call-ended')) === 1;
  });
}
const gone = () => rep.until('the strip is gone', async () => (await rep.count('.call-strip')) === 0);

describe('a call', () => {
  it('is made from the sheet by one key, and what came of it takes few more', async () => {
    await rep.signInAs('Tamsin Rudd');
    await rep.goTo('/contacts');
    await rep.see('.table-row');
    await rep.press('j', Key.ENTER);
    await rep.see('.sheet .timeline .entry');
    const name = (await rep.text('.sheet .record-name')).split('\n').at(-1) ?? '';
    const keys: string[] = [];
    const press = async (...pressed: string[]) => {
      keys.push(...pressed);
      await rep.press(...pressed);
    };
    await press('p');
    await rep.read(name, '.call-strip');
    await rep.see('.call-before li');
    await endCall();
    keys.push('h');
    await rep.until('an outcome has the focus', async () => (await rep.focused('class')).includes('chip'));
    await press('1');
    await rep.until('the note has the focus', async () => (await rep.focused('aria-label')) === 'Note');
    await rep.press(...'Wants the drawing');
    // The outcome proposes what follows.
    await rep.until('a next step is proposed', async () => {
      const input = await rep.see('.call-ending [aria-label="Next step"]');
      return (await input.getAttribute('value')) === 'Send what was asked for';
    });
    await press(Key.ENTER);
    await gone();
    expect(keys.length).toBeLessThanOrEqual(12);
    await rep.read('Interested', '.sheet .timeline');
    await rep.read('Wants the drawing', '.sheet .timeline');
    // Whoever has more planned sees the earliest.
    await rep.until('the next step is planned', async () =>
      /Send what was asked for|more planned/.test(await rep.text('.sheet .next-step')),
    );
  });

  it('that was made elsewhere is logged with outcome, note and next step by twelve keys', async () => {
    const keys = ['o', '4', Key.TAB, Key.TAB];
    await rep.press('o');
    await rep.until('an outcome has the focus', async () => (await rep.focused('class')).includes('chip'));
    await rep.press('4');
    await rep.until('the note has the focus', async () => (await rep.focused('aria-label')) === 'Note');
    await rep.press(...'In a meeting');
    await rep.press(Key.TAB, Key.TAB);
    await rep.pressWith(Key.CONTROL, 'a');
    await rep.press(...'Thu 10:00');
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    keys.push('Control+a', 'Control+Enter');
    expect(keys.length).toBeLessThanOrEqual(12);
    await rep.read('Call back', '.sheet .timeline');
    await rep.read('In a meeting', '.sheet .timeline');
  });

  it('without an outcome is asked about once more, and marked', async () => {
    await rep.press('p');
    await rep.see('.call-strip');
    await endCall();
    await rep.until('an outcome has the focus', async () => (await rep.focused('class')).includes('chip'));
    // Where nobody was reached an outcome is suggested: it is taken away.
    const suggested = await rep.driver.findElements({ css: '.call-ending .chip[aria-pressed="true"]' });
    for (const chip of suggested) await chip.click();
    await rep.clickAt('.call-ending textarea');
    await rep.press(Key.ENTER);
    await rep.read('How did it end?', '.call-ending');
    await rep.press(Key.ENTER);
    await gone();
    await rep.read('no outcome written down', '.sheet .timeline');
  });

  it('that comes in from a number nobody has becomes a lead', async () => {
    const { headers } = await signIn(server);
    // It does not ring for long: whoever takes it has Zawn open.
    await rep.goTo('/');
    await rep.see('.today');
    const { status } = await send(server, 'POST', '/calls/incoming', { number: '+441632977001' }, headers);
    expect(status).toBe(201);
    await rep.read('Nobody on file', '.call-strip');
    await rep.press('a');
    await rep.until('they talk', async () => (await standing()).startsWith('Talking'));
    await rep.type('[aria-label="Name of the caller"]', 'Lowena Rings');
    await rep.press(Key.ENTER);
    await rep.read('Lowena Rings', '.call-who');
    await rep.driver.executeScript('document.activeElement?.blur()');
    await endCall();
    await rep.clickAt('.call-ending .chip');
    await rep.press(Key.ENTER);
    await gone();
  });
});

describe('a call list', () => {
  it('is rung through, left, and taken up again where it stopped', async () => {
    const { headers } = await signIn(server);
    const contacts = await send(
      server,
      'POST',
      '/questions/records',
      {
        question: {
          version: 1,
          object: 'contact',
          where: { field: 'phone', is: 'isNotEmpty' },
          sort: [{ field: 'name' }],
        },
        limit: 5,
      },
      headers,
    );
    const five = (contacts.body.rows as { id: number; name: string }[]).map(({ id, name }) => ({ id, name }));
    const question = {
      version: 1,
      object: 'contact',
      where: { field: 'id', is: 'anyOf', value: five.map(({ id }) => id) },
      sort: [{ field: 'name' }],
    };
    const list = { name: 'Five to call', question, officeHours: false, sharing: 'private' };
    expect((await send(server, 'POST', '/call-lists', list, headers)).status).toBe(201);
    await rep.press('g', 'q');
    await rep.read('0 of 5 called', '.call-lists');
    await rep.click('Begin calling');
    for (const [index, { name }] of five.entries()) {
      await rep.read(name, '.call-who');
      await endCall();
      await rep.clickAt('.call-ending .chip:nth-child(4)');
      await rep.until('the note has the focus', async () => (await rep.focused('aria-label')) === 'Note');
      await rep.press(...`Number ${index + 1}`);
      if (index === 2) {
        await rep.click('Save and pause');
        await gone();
        await rep.read('3 of 5 called', '.call-lists');
        await rep.goTo('/');
        await rep.see('.work');
        await rep.goTo('/call-lists');
        await rep.click('Go on calling');
      } else await rep.press(Key.ENTER);
    }
    await rep.read('All 5 were called', '.ant-notification');
    await gone();
    await rep.read('5 of 5 called', '.call-lists');
    const planned = await send(
      server,
      'POST',
      '/questions/records',
      {
        question: {
          version: 1,
          object: 'activity',
          where: {
            join: 'all',
            of: [
              { field: 'contact', is: 'anyOf', value: five.map(({ id }) => id) },
              { field: 'doneAt', is: 'isEmpty' },
              { field: 'name', is: 'is', value: 'Call back' },
            ],
          },
        },
        limit: 50,
      },
      headers,
    );
    expect(planned.body.total).toBeGreaterThanOrEqual(5);
  });
});

describe('a manager', () => {
  it('finds calls without an outcome, listens to one, and sees how calls ended', async () => {
    await rep.driver.manage().deleteAllCookies();
    await rep.signInAs('Maren Ollerby');
    await rep.goTo('/activities?view=no-outcome');
    await rep.see('.table-row');
    await rep.goTo('/activities?view=calls');
    await rep.see('.table-row .recording');
    await rep.clickAt('.table-row .recording button');
    await rep.until('it is heard', async () => {
      const at = await rep.driver.executeScript<number>(
        'return Math.max(...[...document.querySelectorAll("audio")].map((each) => each.currentTime))',
      );
      return at > 0.2;
    });
    await rep.read('Maren Ollerby', '.table-row:has(.recording) [data-path="heardBy"]');
    // A remark where it is played, and the call kept with those worth hearing.
    await rep.clickAt('.table-row .recording [title="Remarks"]');
    await rep.type('.remarks input', 'Asks well what they need');
    await rep.press(Key.ENTER);
    await rep.read('Asks well what they need', '.remarks li');
    await rep.press(Key.ESCAPE);
    await rep.clickAt('.table-row .recording [aria-label^="Worth hearing"]');
    await rep.pick('Worth hearing');
    await rep.read('Worth hearing', '.notice');
    await rep.press('v');
    await rep.pick('worth');
    await rep.read('Worth hearing', '.view-name');
    await rep.see('.table-row .recording');
    await rep.press('g', 'z');
    await rep.see('.outcome-table');
    await rep.clickAt('.outcome-table tbody tr:first-child td:nth-last-child(2) a');
    await rep.see('.table-row');
    await rep.until('the list says what it holds', async () =>
      (await rep.sentence()).includes('outcome is empty'),
    );
  });
});

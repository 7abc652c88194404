import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { send, signIn } from '../wire';
import { FIXED_DAY, startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(180_000);

/** What Zawn's clock shows when it starts, and goes on from. */
const BEGINS = Date.parse(`${FIXED_DAY}T09:30:40.000Z`);
const MINUTE_MS = 60_000;
/** What the demo company's people are reminded by: ten minutes before, in London, whose clocks show UTC in winter. */
const BEFORE = 10;

const instant = (ms: number) => new Date(ms).toISOString();

describe('a reminder', () => {
  let server: ZawnServer;
  let browser: Browser;
  let startedAt: number;
  const start = async (now: number, folder?: string) => {
    startedAt = Date.now() - (now - BEGINS);
    server = await startZawn({ demo: true, today: instant(now), folder });
  };
  /** What Zawn's clock shows, or a little more. */
  const now = () => BEGINS + Date.now() - startedAt;
  const plan = async (name: string, remindedAt: number) => {
    const { headers, me } = await signIn(server);
    const at = instant(remindedAt + BEFORE * MINUTE_MS);
    const values = { name, kind: 'call', dueOn: at.slice(0, 10), dueAt: at.slice(11, 16), owner: me };
    expect((await send(server, 'POST', '/activities', values, headers)).status).toBe(201);
  };
  const told = async (name: string, signedIn = signIn(server)) => {
    const { headers } = await signedIn;
    const { body } = await send(server, 'GET', '/notices', undefined, headers);
    return (body.rows as { text: string }[]).filter(({ text }) => text.includes(name)).length;
  };

  beforeAll(async () => {
    await start(BEGINS);
    browser = await openBrowser();
  });
  afterAll(async () => {
    await browser.quit();
    await server.stop();
  });

  it('comes into an open browser at its minute', async () => {
    const rep = new Person(browser.driver, server.address);
    await rep.signInAs('Tamsin Rudd');
    await rep.see('.work');
    // Wanted outside of Zawn as well: the browser is asked, and shows it while another page is looked at.
    await rep.press('g', 'n');
    await rep.driver.executeScript(`
      window.shown = [];
      window.Notification = class { constructor(title, { body }) { shown.push(body); } };
      Notification.permission = 'denied';
      Notification.requestPermission = async () => Notification.permission;`);
    const inBrowser =
      '//div[contains(@class, "notice-kind")][contains(., "a time is near")]//label[contains(., "in the browser")]';
    const tick = async () => (await rep.driver.findElement({ xpath: inBrowser })).click();
    await rep.see('.notice-kinds');
    await tick();
    await rep.read('Your browser keeps notices of this site back', '.notice');
    await rep.driver.executeScript(`Notification.permission = 'granted';`);
    await tick();
    await rep.see('.notice-kind .ant-checkbox-wrapper-checked:nth-of-type(2)');
    await rep.driver.executeScript(`Object.defineProperty(document, 'hidden', { get: () => true });`);
    // The next whole minute that is not upon us.
    const minute = Math.ceil((now() + 4000) / MINUTE_MS) * MINUTE_MS;
    await plan('Ring the pilots', minute);
    const words = `${instant(minute + BEFORE * MINUTE_MS).slice(11, 16)}: Ring the pilots`;
    await rep.driver.sleep(Math.max(0, minute - now() - 1500));
    expect(await told('Ring the pilots')).toBe(0);
    await rep.read(words, '.notice');
    expect(await told('Ring the pilots')).toBe(1);
    await rep.until('the browser shows it once', async () => {
      const shown = await rep.driver.executeScript<string[]>('return shown');
      return shown.length === 1 && shown[0].startsWith(words);
    });
  });

  it('is given once by a server that was killed before its time and started after it, and again', async () => {
    const minute = Math.ceil((now() + MINUTE_MS) / MINUTE_MS) * MINUTE_MS;
    await plan('Ring the harbour', minute);
    const { folder, kill } = server;
    await kill();
    for (const later of [2, 3]) {
      await start(minute + later * MINUTE_MS, folder);
      const signedIn = signIn(server);
      let count = 0;
      for (let tries = 0; tries < 100 && count === 0; tries += 1) {
        count = await told('Ring the harbour', signedIn);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      expect([later, count]).toEqual([later, 1]);
      if (later === 2) await server.kill();
    }
  });
});

import { openBrowser, type Browser, type BrowserOptions } from '../browser';
import { Person } from '../person';
import { startZawn, type ZawnServer } from '../zawn-server';

/** What a story takes place on: a server with the demo company, a browser, and someone at it. */
export interface Stage {
  server: ZawnServer;
  browser: Browser;
  person: Person;
}

/** Sets the stage before a file's stories and clears it afterwards. */
export function setStage(options: BrowserOptions = {}): Stage {
  // Whatever is waited for has its own patience: this is for what hangs.
  jest.setTimeout(300_000);
  const stage = {} as Stage;
  beforeAll(async () => {
    stage.server = await startZawn({ demo: true });
    stage.browser = await openBrowser(options);
    stage.person = new Person(stage.browser.driver, stage.server.address);
  });
  afterAll(async () => {
    await stage.browser.quit();
    await stage.server.stop();
  });
  return stage;
}

import { Key } from 'selenium-webdriver';
import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { startZawn, type ZawnServer } from '../zawn-server';

jest.setTimeout(120_000);

let server: ZawnServer;
const browsers: Browser[] = [];
/** Somebody at a browser of their own. */
async function atBrowser(): Promise<Person> {
  const browser = await openBrowser();
  browsers.push(browser);
  return new Person(browser.driver, server.address);
}

let una: Person;
beforeAll(async () => {
  server = await startZawn({ demo: false });
  una = await atBrowser();
});
afterAll(async () => {
  for (const browser of browsers) await browser.quit();
  await server.stop();
});

/** The address that an invitation is handed over as, on this server. */
async function linkShown(): Promise<string> {
  const address = await una.text('.people-link code');
  return new URL(address).pathname;
}

async function invite(name: string, email: string, role: string): Promise<string> {
  await una.click('Invite', 'contains(@class, "page-tools")');
  await una.type('.people-invite #name', name);
  await una.type('.people-invite #email', email);
  await una.clickAt('.people-invite .ant-select');
  await una.choose(role);
  await una.click('Invite', 'contains(@class, "people-invite")');
  await una.read(`${name} is invited`, '.people-link');
  return linkShown();
}

async function comeIn(person: Person, path: string, password: string): Promise<void> {
  await person.goTo(path);
  await person.type('#password', password);
  await person.type('#again', password);
  await person.click('Set the password and sign in');
  await person.see('nav[aria-label="Main"]');
  await person.see('.today');
}

describe('a company begins with nothing', () => {
  it('has a demo company beside it to look around in, with people and data of its own', async () => {
    await una.goTo('/');
    await una.click('Look around in a demo company');
    const link = await una.see('.demo-company a');
    const demo = String(await link.getAttribute('href'));
    expect(demo).not.toContain(server.address);
    const visitor = new Person(una.driver, demo.replace(/\/$/, ''));
    await visitor.signInAs('Tamsin Rudd');
    await visitor.see('nav[aria-label="Main"]');
    // The sessions of the two are apart, though both are on this machine.
    await una.goTo('/');
    await una.read('Welcome to Zawn');
  });

  it('is founded by its first person', async () => {
    await una.goTo('/');
    await una.type('#name', 'Saltmarsh Pumps');
    await una.clickAt('.sign-in-form .ant-form-item:has(#currency) .ant-select');
    await una.press(...'GBP', Key.ENTER);
    await una.type('#person_name', 'Una Garrow');
    await una.type('#person_email', 'una.garrow@saltmarsh.example');
    await una.type('#person_password', 'saltmarsh pumps');
    await una.click('Create the organisation');
    await una.read('Password is your name, your email or the organisation’s name');
    await una.type('#person_password', 'a slate roof');
    await una.click('Create the organisation');
    await una.see('nav[aria-label="Main"]');
  });

  it('shows what to do first, and what of it is done', async () => {
    await una.read('The first hour', '.today');
    await una.until(
      'five steps are left',
      async () => (await una.count('.first-hour li:not(.first-step-done)')) === 5,
    );
    await una.click('Invite your colleagues');
    await una.read('People', '.page-head');
    await una.goTo('/');
    await una.click('Put away');
    await una.readNoMore('The first hour', '.today');
    await una.goTo('/setup/first-hour');
    await una.read('Put a form on your website', '.first-hour');
  });

  it('is three people within one sitting, each with a password of their own', async () => {
    await una.goTo('/setup/people');
    await una.read('Una Garrow', '.people-list');
    const first = await invite('Perran Skewes', 'perran.skewes@saltmarsh.example', 'Rep');
    await una.read('invited until', '.people-list');
    const perran = await atBrowser();
    await comeIn(perran, first, 'nine gulls calling');
    await perran.readNoMore('Setup', 'nav[aria-label="Main"]');
    // The link has had its day.
    await perran.signOut();
    await perran.goTo(first);
    await perran.read('This link was used already');
    await perran.click('Go to sign-in');
    await perran.type('#email', 'perran.skewes@saltmarsh.example');
    await perran.type('#password', 'nine gulls calling');
    await perran.click('Sign in');
    await perran.see('nav[aria-label="Main"]');

    await una.clickAt('[aria-label="Actions for Perran Skewes"]');
    await una.read('Make a link for a new password', '.ant-dropdown');
    await una.press(Key.ESCAPE);
    const second = await invite('Demelza Tonkin', 'demelza.tonkin@saltmarsh.example', 'Manager');
    const demelza = await atBrowser();
    await comeIn(demelza, second, 'rain on the quay');
    await demelza.read('Team pipeline', 'nav[aria-label="Main"]');
    await una.goTo('/setup/people');
    await una.read('3 people', '.page-head');
  });

  it('has a pipeline of its own: a stage more, another order, and one retired', async () => {
    await una.goTo('/setup/pipelines');
    await una.type('[aria-label="Name of another stage of Sales"]', `Contract signed${Key.ENTER}`);
    await una.read('Won and lost are no stages', '.pipeline');
    await una.type('[aria-label="Name of the stage Contract signed"]', `Papers out${Key.ENTER}`);
    await una.until('it is called otherwise', async () => {
      const remarks = await una.count('.stage-remark');
      return remarks === 0 && (await una.count('[aria-label="Move Papers out up"]')) === 1;
    });
    await una.clickAt('[aria-label="Move Papers out up"]');
    await una.read('Put stages into another order', '.notice');
    await una.clickAt('[aria-label="Retire First talk"]');
    await una.read('First talk, bring back', '.pipeline-retired');
    await una.goTo('/setup/first-hour');
    await una.read('Needs understood, Offer made, Papers out, Agreed in words', '.first-hour');
  });

  it('has rates that are pasted, and targets that are typed', async () => {
    await una.goTo('/setup/organisation');
    await una.type(
      '[aria-label="Rates to be entered"]',
      `EUR;01.11.2026;0,86${Key.chord(Key.SHIFT, Key.ENTER)}GBP;01.11.2026;1`,
    );
    await una.read('Line 2: GBP is what everything is reported in', '.many-rates');
    await una.click('Enter the 1 rate that was understood');
    await una.read('Entered a rate: 1 new.', '.notice');
    await una.read('1 Nov 2026', '.rate-table');
    await una.goTo('/setup/targets');
    await una.type('[aria-label^="Target of Perran Skewes"]', `75000${Key.ENTER}`);
    await una.read('£75,000', '.target-table tfoot');
  });

  it('has a calendar of its own, which suggestions of when go by', async () => {
    await una.goTo('/setup/calendar');
    await una.see('.hours-day');
    // On no day but Wednesday.
    for (const day of ['Monday', 'Tuesday', 'Thursday', 'Friday'])
      await una.clickAt(`.working-hours tr:first-child [aria-label^="${day}"][aria-pressed="true"]`);
    await una.until('Wednesday alone is worked on', async () => {
      const all = '.working-hours tr:first-child [aria-pressed="true"]';
      return (await una.driver.findElements({ css: all })).length === 1;
    });
    await una.goTo('/activities');
    await una.read('Planned', '.page-head');
    await una.press('c', 't');
    await una.read('Wed', '.when');
    await una.type('.when input', 'in 2 working days');
    await una.read('Wed', '.when .second');
    await una.type('.when input', 'next fri');
    await una.read('not a working day', '.when');
  });

  it('lets somebody leave, whose work goes on with others', async () => {
    const [, perran] = browsers.map(({ driver }) => new Person(driver, server.address));
    await perran.goTo('/leads');
    await perran.click('Lead', 'contains(@class, "page-tools")');
    await perran.type('#name', 'Jory Penberthy');
    await perran.click('Create lead');
    await perran.read('Created lead “Jory Penberthy”', '.notice');

    await una.goTo('/setup/people');
    await una.clickAt('[aria-label="Actions for Perran Skewes"]');
    await una.choose('Leaves');
    await una.read('Perran Skewes leaves', '.ant-modal');
    await una.clickAt('[aria-label="Give some leads to somebody else"]');
    await una.read('Say which and who first', '.ant-modal');
    await una.clickToken('where…');
    await una.pick('Status');
    await una.pick('Untouched');
    await una.press(Key.ESCAPE);
    await una.clickAt('.leaving-part td:nth-child(3) .ant-select');
    await una.choose('Demelza Tonkin');
    await una.read('Demelza Tonkin 1', '.leaving-table');
    await una.click('Hand over and end access');
    await una.read('Perran Skewes left, and 1 of their records went to others', '.notice');
    await una.read('left', '.people-left');
    // At once, in the browser that was open.
    await perran.read('Your session has ended');
    const demelza = new Person(browsers[2].driver, server.address);
    await demelza.goTo('/leads?view=all-leads');
    await demelza.read('Jory Penberthy', '.table-row');
  });
});

describe('one’s own profile', () => {
  it('says how dates and amounts are written for one, and who one is', async () => {
    const demelza = new Person(browsers[2].driver, server.address);
    await demelza.clickAt('.bar-person');
    await demelza.choose('Your profile');
    await demelza.clickAt('[aria-label="How Zawn writes"] .ant-select');
    await demelza.press(...'Norwegian');
    await demelza.choose('Norwegian');
    await demelza.read('12 345,6', '[aria-label="How Zawn writes"]');
    await demelza.type(
      '[aria-label="Who you are"] input[maxlength="200"]',
      `Demelza Tonkin-Skewes${Key.ENTER}`,
    );
    await demelza.read('Changed your profile', '.notice');
    await demelza.read('Demelza Tonkin-Skewes', '.bar-person');
  });
});

describe('one’s own sign-in', () => {
  it('shows where one is signed in, and changes the password', async () => {
    const demelza = new Person(browsers[2].driver, server.address);
    await demelza.clickAt('.bar-person');
    await demelza.choose('Your sign-in');
    await demelza.read('here', '[aria-label="Where you are signed in"]');
    await demelza.type('#present', 'not this one');
    await demelza.type('#password', 'wind over the dunes');
    await demelza.click('Change the password');
    await demelza.read('This is not your present password', '.own-access');
    await demelza.type('#present', 'rain on the quay');
    await demelza.click('Change the password');
    await demelza.read('You were signed out everywhere else');
    await demelza.signOut();
    await demelza.type('#email', 'demelza.tonkin@saltmarsh.example');
    await demelza.type('#password', 'wind over the dunes');
    await demelza.click('Sign in');
    await demelza.see('nav[aria-label="Main"]');
  });
});

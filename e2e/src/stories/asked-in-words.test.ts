import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let rep: Person;
beforeAll(async () => {
  rep = stage.person;
  await rep.signInAs('Maren Ollerby');
  await rep.see('.work');
});

/** Types into *Go anywhere*, whatever page one is on. */
const type = async (words: string) => {
  await rep.press(Key.ESCAPE, '/');
  await rep.until('the field has the focus', async () => (await rep.focused('id')) === 'go-anywhere');
  await rep.press(...words);
};
const sentence = async () => (await rep.sentence()).replace(/\s+/g, ' ');

/** What is typed, where it leads, and what stands there. */
const questions: readonly (readonly [typed: string, path: string, said: string])[] = [
  ['my open deals', '/deals', 'outcome is Open'],
  ['open deals over 25k', '/deals', 'value is above £25,000'],
  ['deals closing this quarter', '/deals', 'close date is in this fiscal quarter'],
  ['deals won last month', '/deals', 'closed on is in last month'],
  ['deals in survey booked', '/deals', 'stage is Survey booked'],
  ["Nora's open deals", '/deals', 'owner is Nora Fairlough'],
  ['open deals by stage', '/deals', 'by stage'],
  ['value by rep this fiscal quarter', '/deals', 'sum of value'],
  ['won value by month compared with last year', '/reports/new', 'Value'],
  ['top 5 accounts by won value', '/reports/new', 'account'],
  ['deals lost on price', '/deals', 'lost because is Price'],
  ['leads from the website', '/leads', 'source is Website'],
  ['untouched leads', '/leads', 'status is Untouched'],
  ['leads by source as bars', '/leads', 'as bars'],
  ['accounts in Sweden', '/accounts', 'country is Sweden'],
  ['accounts with no activity in 60 days', '/accounts', 'there are no activities'],
  ['contacts without email', '/contacts', 'email is empty'],
  ['overdue tasks', '/activities', 'due is before today'],
  ['tasks due this week', '/activities', 'due is in this week'],
  ['open deals as it stood on 1 October', '/deals', 'as it stood on 1 Oct 2026'],
];

describe('twenty questions typed in a row', () => {
  it.each(questions)('“%s” leads to %s, which says “%s”', async (typed, path, said) => {
    await type(typed);
    await rep.read('Ask', '.go-anywhere-list');
    await rep.see('.hit-asked');
    await rep.press(Key.ENTER);
    await rep.until(
      `the page is ${path}`,
      async () => new URL(await rep.driver.getCurrentUrl()).pathname === path,
    );
    await rep.until(`the sentence says “${said}”`, async () =>
      (await sentence()).toLowerCase().includes(said.toLowerCase()),
    );
  });
});

describe('what is doubtful', () => {
  it('offers the other reading in the next line', async () => {
    await type('deals won this year');
    await rep.read('Or, read as this calendar year', '.go-anywhere-list');
    const spoken = await rep.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('#go-anywhere_list [role=option]')].map((line) => line.getAttribute('aria-label'))`,
    );
    expect(spoken[0]).toMatch(/^Ask, Deals where outcome is Won and closed on is in this fiscal year/);
    expect(spoken[1]).toMatch(/^Ask, Or, read as this calendar year/);
    await rep.press(Key.ARROW_DOWN, Key.ENTER);
    await rep.until('it is the calendar year', async () =>
      /closed on is in this year/i.test(await sentence()),
    );
  });

  it('says what it does not understand, and asks nothing wider by itself', async () => {
    await type('open deals with purple sails');
    await rep.read('is not understood', '.go-anywhere-list');
    expect(await rep.text('.go-anywhere-list mark')).toBe('purple sails');
    await rep.press(Key.ENTER);
    await rep.until('activities are looked through instead', async () =>
      (await rep.driver.getCurrentUrl()).includes('/activities'),
    );
  });

  it('offers what a word can go on with', async () => {
    await type('open deals of nor');
    await rep.read('open deals of Nora Fairlough', '.go-anywhere-list');
    await rep.driver.executeScript(
      `[...document.querySelectorAll('.hit')].find((each) => each.textContent === 'Typeopen deals of Nora Fairlough').click()`,
    );
    await rep.read('Deals where outcome is Open and owner is Nora Fairlough', '.go-anywhere-list');
  });

  it('says what is no question of the records', async () => {
    await type('deals near Bergen');
    await rep.read('How far something is away is not on file', '.go-anywhere-list');
  });
});

describe('a question typed into the sentence', () => {
  it('is told as it is read, with its count, and takes the place of what stood there', async () => {
    await rep.goTo('/deals');
    await rep.clickToken('or type it…');
    await rep.until(
      'it is typed',
      async () => (await rep.focused('aria-label')) === 'Type the whole question',
    );
    await rep.press(...'opne deals over 10k by sta');
    await rep.read('Read as “open” for “opne”', '.typed-question');
    await rep.read('stage', '.typed-suggestions');
    await rep.press(Key.TAB);
    await rep.read(
      'Deals where outcome is Open and value is above £10,000, grouped by stage',
      '.typed-reading',
    );
    await rep.until('it is counted', async () => /: [\d,]+ deals/.test(await rep.text('.typed-reading')));
    await rep.press(Key.ENTER);
    await rep.until('the sentence is that', async () =>
      /value is above £10,000.*by stage/i.test(await sentence()),
    );
  });

  it('reads a word the other way by a key', async () => {
    await rep.clickToken('or type it…');
    await rep.until(
      'it is typed',
      async () => (await rep.focused('aria-label')) === 'Type the whole question',
    );
    await rep.press(...'deals won this year');
    await rep.read('is read as this fiscal year', '.typed-reading');
    await rep.pressWith(Key.ALT, Key.ARROW_RIGHT);
    await rep.read('closed on is in this year', '.typed-reading');
    await rep.press(Key.ESCAPE);
  });
});

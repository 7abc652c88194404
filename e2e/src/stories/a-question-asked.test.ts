import { Key } from 'selenium-webdriver';
import { openBrowser, type Browser } from '../browser';
import { Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let manager: Person;
beforeAll(() => {
  manager = stage.person;
});

const ASKED =
  'Deals where all of outcome is Open, close date is in this fiscal quarter, stage is none of Survey booked';

/** Records that the answer says there are. */
const count = async (person: Person) => Number((await person.text('.page-count')).replace(/\D.*/s, ''));

/** Waits until the answer counts something else than before. */
const counts = (person: Person, what: string, holds: (now: number) => boolean) =>
  person.until(what, async () => holds(await count(person)));

describe('the example question, by mouse', () => {
  it('is answered from the first moment, and with each part of the sentence', async () => {
    await manager.signInAs('Maren Ollerby');
    await manager.goTo('/deals?view=all-deals');
    await manager.see('.table-row');
    const all = await count(manager);
    await manager.clickToken('where…');
    await manager.pick('outcome');
    await manager.pick('open');
    await manager.press(Key.TAB);
    await counts(manager, 'only open deals are counted', (now) => now < all && now > 0);
    const open = await count(manager);
    await manager.clickToken('and…');
    await manager.pick('close date');
    await manager.pick('this fiscal quarter');
    await counts(manager, 'only this quarter’s are counted', (now) => now < open);
    const quarter = await count(manager);
    await manager.clickToken('and…');
    await manager.pick('stage');
    await manager.press(Key.TAB);
    // An unfinished part says so, and the rest still runs.
    await manager.read('which?', '.sentence');
    expect(await count(manager)).toBe(quarter);
    await manager.clickToken('is any of');
    await manager.pick('is none of');
    await manager.clickToken('which?');
    await manager.pick('survey booked');
    await manager.press(Key.TAB);
    await manager.until('the sentence reads as it was meant', async () =>
      (await manager.sentence()).startsWith(ASKED),
    );
    await counts(manager, 'deals of that stage are left out', (now) => now <= quarter);
  });

  it('is grouped by month, with the value summed on each', async () => {
    await manager.clickToken('grouped by…');
    await manager.pick('close date');
    await manager.read('close date by month', '.sentence');
    await manager.see('.group-head');
    await manager.clickToken('number of deals');
    await manager.pick('sum of value');
    await manager.read('sum of value', '.group-head');
    const heads = await manager.driver.findElements({ css: '.table-group .group-head > a' });
    const perMonth = await Promise.all(heads.map(async (head) => Number(await head.getText())));
    expect(perMonth.reduce((sum, each) => sum + each, 0)).toBe(await count(manager));
  });

  it('is drawn as columns split by owner, every segment opening its deals', async () => {
    await manager.clickToken('then by…');
    await manager.pick('owner');
    await manager.clickToken('a table');
    await manager.pick('columns');
    const segment = await manager.see('.chart .bar-segment');
    const link = await segment.findElement({ xpath: './parent::*' });
    const words = String(await link.getAttribute('aria-label'));
    const deals = Number(/: (\d+) deals?/.exec(words)?.[1]);
    await link.click();
    await manager.see('.table-row');
    await counts(manager, `the segment “${words}” opens its ${deals} deals`, (now) => now === deals);
    await manager.driver.navigate().back();
    await manager.see('.chart .bar-segment');
  });

  it('is saved, shared with the team, and pinned', async () => {
    await manager.click('Save view');
    await manager.type('#view-name', 'Quarter by month');
    await manager.clickAt('.ant-radio-wrapper:nth-child(2)');
    await manager.click('Save view', '@role="dialog"');
    await manager.read('Quarter by month', '.view-name');
    await manager.clickAt('[aria-label="View actions"]');
    await manager.choose('Pin to the rail');
    await manager.read('Quarter by month', '.rail');
  });

  it('shows a rep of the team the same, within what the rep may see', async () => {
    const address = await manager.driver.getCurrentUrl();
    const mine = await count(manager);
    let other: Browser | undefined;
    try {
      other = await openBrowser();
      const rep = new Person(other.driver, stage.server.address);
      await rep.signInAs('Tamsin Rudd');
      await other.driver.get(address);
      await rep.read('Quarter by month', '.view-name');
      await counts(rep, 'the rep counts own deals only', (now) => now > 0 && now < mine);
      await rep.until('the question is the same', async () =>
        (await rep.sentence()).includes('stage is none of Survey booked'),
      );
      await rep.until('no legend is drawn', async () => (await rep.count('.legend li')) === 0);
    } finally {
      await other?.quit();
    }
  });

  it('carries unsaved changes in the address, and takes them back', async () => {
    const before = await count(manager);
    await manager.clickToken('and…');
    await manager.pick('value');
    await manager.type('.pick-numbers input', '40000');
    await manager.press(Key.ENTER);
    await counts(manager, 'fewer deals answer', (now) => now < before);
    const changed = await count(manager);
    await manager.driver.navigate().refresh();
    await counts(manager, 'the page shows the same after it was opened anew', (now) => now === changed);
    await manager.read('changed', '.page-count');
    await manager.click('Discard changes');
    await counts(manager, 'everything is back', (now) => now === before);
  });
});

describe('the same by keyboard alone', () => {
  /** Goes along the sentence to the part that says this. */
  const goTo = async (words: string) => {
    const passed: string[] = [];
    while (passed.length < 40) {
      const at = await manager.focused('text');
      if (at === words) return;
      passed.push(at);
      await manager.press(Key.ARROW_RIGHT);
    }
    throw new Error(`The keyboard does not reach “${words}”, but passes ${passed.join(' | ')}`);
  };
  const toSentence = async () => {
    const isThere = async () => (await manager.focused('class')).includes('token');
    if (await isThere()) await manager.press(Key.HOME);
    // A page that is just being drawn can miss a key, and whoever sees that nothing happened presses it again.
    for (let tries = 0; tries < 5 && !(await isThere()); tries += 1) {
      await manager.press('q');
      await manager.driver.wait(isThere, 3000).catch(() => undefined);
    }
    await manager.until('the sentence has the focus', isThere);
  };

  it('is asked, grouped, summed, drawn and split', async () => {
    await manager.press('g', 'd');
    await manager.see('.sentence');
    await manager.press('v');
    await manager.pick('all deals');
    await manager.see('.table-row');
    const all = await count(manager);
    await toSentence();
    await goTo('where…');
    await manager.press(Key.ENTER);
    await manager.pick('outcome');
    await manager.pick('open');
    await manager.press(Key.ESCAPE);
    await counts(manager, 'only open deals are counted', (now) => now < all);
    await goTo('and…');
    // A letter opens the part and narrows it at once.
    await manager.press('c');
    await manager.pick('lose date');
    await manager.pick('this fiscal q');
    await goTo('and…');
    await manager.press(Key.ENTER);
    await manager.pick('stage');
    await manager.see('[aria-label^="What stage"]');
    await manager.press(Key.ESCAPE);
    await toSentence();
    await goTo('is any of');
    await manager.press(Key.ENTER);
    await manager.pick('none');
    await goTo('which?');
    await manager.press(Key.ENTER);
    await manager.pick('survey b');
    await manager.press(Key.ESCAPE);
    await manager.until('the sentence reads as it was meant', async () =>
      (await manager.sentence()).startsWith(ASKED),
    );
    await goTo('grouped by…');
    await manager.press(Key.ENTER);
    await manager.pick('close date');
    await toSentence();
    await goTo('then by…');
    await manager.press(Key.ENTER);
    await manager.pick('owner');
    await toSentence();
    await goTo('number of deals');
    await manager.press(Key.ENTER);
    await manager.pick('sum of value');
    await toSentence();
    await goTo('a table');
    await manager.press(Key.ENTER);
    await manager.pick('columns');
    await manager.see('.chart .bar-segment');
    expect(await count(manager)).toBeGreaterThan(0);
  });

  it('is saved for the team', async () => {
    // Escape leaves the sentence, so that letters are shortcuts again.
    await manager.until('the sentence is left', async () => {
      if (
        !(await manager.focused('class')).includes('token') &&
        (await manager.count('.token-popover:not(.ant-popover-hidden)')) === 0
      )
        return true;
      await manager.press(Key.ESCAPE);
      return false;
    });
    await manager.press('s');
    await manager.until('the name has the focus', async () => (await manager.focused('id')) === 'view-name');
    await manager.pressWith(Key.CONTROL, 'a');
    await manager.press(...'By keys', Key.TAB, Key.ARROW_RIGHT);
    await manager.pressWith(Key.SHIFT, Key.TAB);
    await manager.press(Key.ENTER);
    await manager.read('By keys', '.view-name');
    await manager.press('v');
    await manager.see('.pick-field');
    await manager.read('By keys', '.pick-list');
    await manager.press(Key.ESCAPE);
  });

  it('loses a part by Backspace', async () => {
    const before = await count(manager);
    await toSentence();
    await goTo('stage');
    await manager.press(Key.BACK_SPACE);
    await manager.readNoMore('Survey booked', '.sentence');
    await counts(manager, 'that stage is counted again', (now) => now >= before);
  });

  it('goes on inside a group that was just added, and says that it asks nothing yet', async () => {
    await manager.goTo('/deals?view=all-deals');
    await manager.see('.table-row');
    const all = await count(manager);
    await toSentence();
    await goTo('where…');
    await manager.press(Key.ENTER);
    await manager.pick('outcome');
    await manager.pick('open');
    await manager.press(Key.ESCAPE);
    await counts(manager, 'only open deals are counted', (now) => now < all);
    const before = await count(manager);
    await toSentence();
    await goTo('and…');
    await manager.press(Key.ENTER);
    await manager.pick('any of');
    await manager.read('asks nothing yet', '.group-nested');
    // The list of the new group has the focus: what is typed now stands in it.
    await manager.pick('owner');
    await manager.until('the condition stands in the group', async () =>
      (await manager.text('.group-nested')).includes('owner'),
    );
    await manager.readNoMore('asks nothing yet', '.sentence');
    await manager.press(Key.ESCAPE);
    expect(await count(manager)).toBe(before);
  });
});

describe('rows picked by keyboard', () => {
  it('are marked, put on a new list, and the list is a view of its own', async () => {
    await manager.goTo('/accounts?view=all-accounts');
    await manager.see('.table-row');
    await manager.press('j', 'x', 'j', 'j', 'X');
    await manager.read('3 accounts', '.bulk-bar');
    await manager.press('l');
    await manager.pick('Spring visit');
    await manager.read('Put 3 accounts on the list “Spring visit”', '.notice');
    await manager.press('v');
    await manager.pick('spring');
    await manager.read('Spring visit', '.view-name');
    await counts(manager, 'the list holds three', (now) => now === 3);
  });

  it('are changed all at once beyond the page, after three examples, and taken back', async () => {
    await manager.goTo('/contacts?view=all-contacts');
    await manager.see('.table-row');
    const all = await count(manager);
    await manager.press('A');
    await manager.read(`${all} contacts`, '.bulk-bar');
    await manager.press('b');
    await manager.see('#bulk-field');
    await manager.press(...'relationship', Key.ENTER);
    await manager.clickAt('#bulk-relationship');
    await manager.choose('Partner');
    await manager.read('→ Partner', '.bulk-preview');
    await manager.until('three rows are shown', async () => (await manager.count('.bulk-preview tr')) === 3);
    await manager.click(`Change ${all} contacts`);
    await manager.read(`Changed relationship of ${all} contacts`, '.notice');
    await manager.until(
      'every row says so',
      async () => (await manager.text('.table-row [data-path="relationship"]')) === 'Partner',
    );
    // The notice may be gone by then.
    await manager.press('z');
    await manager.read('Undone', '.notice');
    await manager.until('it is as it was', async () =>
      (await manager.text('.table-body')).includes('Prospect'),
    );
  });

  it('are taken back later too, from the changes one made', async () => {
    await manager.goTo('/contacts?view=all-contacts');
    await manager.see('.table-row');
    const name = await manager.text('.table-row [data-path="name"]');
    await manager.press('j', 'x', 'b');
    await manager.see('#bulk-field');
    await manager.press(...'town', Key.ENTER);
    await manager.see('#bulk-city');
    await manager.type('#bulk-city', 'Farthest Skerry');
    await manager.click('Change 1 contact');
    await manager.read('Changed town of', '.notice');
    await manager.goTo('/');
    await manager.see('.work');
    await manager.press('g', 'h');
    await manager.clickAt('.changes button[aria-label^="Undo: Changed town of"]');
    await manager.read('undone', '.changes');
    await manager.goTo('/contacts?view=all-contacts');
    await manager.read(name, '.table-body');
    await manager.readNoMore('Farthest Skerry', '.table-body');
  });

  it('are deleted to the bin and come back from it', async () => {
    await manager.goTo('/leads?view=all-leads');
    await manager.see('.table-row');
    const name = await manager.text('.table-row [data-path="name"]');
    await manager.press('j', 'x', Key.DELETE);
    await manager.click('Delete 1 lead');
    await manager.read('Deleted 1 lead', '.notice');
    await manager.press('g', 'b');
    await manager.read(name, '.bin');
    await manager.click(`Bring back ${name}`);
    await manager.read('Brought back', '.notice');
    await manager.press('/');
    await manager.press(...name);
    await manager.read(name, '.go-anywhere-list');
  });

  it('are edited in place', async () => {
    await manager.press(Key.ESCAPE);
    await manager.goTo('/accounts?view=all-accounts');
    await manager.see('.table-row');
    const town = '.table-row [data-path="city"]';
    await manager.press('j', Key.ARROW_RIGHT, Key.ARROW_RIGHT, 'e');
    await manager.see('.table-editing input');
    await manager.pressWith(Key.CONTROL, 'a');
    await manager.press(...'Brackwater', Key.ENTER);
    await manager.until('the cell shows it', async () => (await manager.text(town)) === 'Brackwater');
    await manager.press('z');
    await manager.until('it is as it was', async () => (await manager.text(town)) !== 'Brackwater');
  });
});

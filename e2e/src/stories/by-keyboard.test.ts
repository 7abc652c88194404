import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let rep: Person;
beforeAll(() => {
  rep = stage.person;
});

describe('the same without a mouse', () => {
  it('signs in by typing', async () => {
    await rep.goTo('/');
    await rep.see('.sign-in-form');
    await rep.press('tamsin.rudd@brackwater.example', Key.TAB, 'brackwater', Key.ENTER);
    await rep.see('.work');
  });

  it('lists its shortcuts, which never fire while typing', async () => {
    await rep.press('?');
    await rep.read('Show what the keyboard does', '.shortcut-groups');
    await rep.read('Move to tomorrow', '.shortcut-groups');
    await rep.press(Key.ESCAPE);
    await rep.until('the list is closed', async () => (await rep.count('.shortcut-groups')) === 0);
    await rep.press('/');
    await rep.press('gd?');
    expect(await rep.driver.getCurrentUrl()).not.toContain('/deals');
    await rep.press(Key.ESCAPE);
  });

  it('works the day: down the list, done with an outcome and the next step', async () => {
    await rep.goTo('/');
    await rep.see('.work');
    await rep.press('j');
    await rep.see('.work-active');
    const name = await rep.text('.work-active .work-what b');
    await rep.press('d');
    await rep.see('.done-form textarea');
    const isTask = (await rep.count('.done-form .chips')) === 0;
    if (!isTask) await rep.press('2');
    await rep.press('Agreed on the phone', Key.TAB, 'Send the papers', Key.TAB, 'in 2 days');
    await rep.read('Done, next Sat 21 Nov', '.done-form');
    await rep.press(Key.ENTER);
    await rep.read(`Done: “${name}”`, '.notice');
    await rep.read('Send the papers', '[aria-label="Upcoming"]');
  });

  it('undoes it with a key', async () => {
    await rep.until('the form is gone', async () => (await rep.count('.done-form')) === 0);
    await rep.press('z');
    await rep.readNoMore('Send the papers', '[aria-label="Upcoming"]');
  });

  it('goes anywhere by name', async () => {
    await rep.pressWith(Key.CONTROL, 'k');
    await rep.press(...'seagr');
    await rep.read('Seagrave', '.go-anywhere-list');
    await rep.press(Key.ENTER);
    await rep.read('Seagrave', '.sheet');
    await rep.press(Key.ESCAPE);
    await rep.until('the sheet is closed', async () => (await rep.count('.sheet')) === 0);
  });

  it('adds a lead, notes, plans and converts it', async () => {
    await rep.press('g', 'l');
    await rep.see('.table-row');
    await rep.press('c', 'l');
    await rep.until(
      'the first field has the focus',
      async () => (await rep.driver.switchTo().activeElement().getAttribute('id')) === 'name',
    );
    await rep.press('Thea Larkhaven', Key.TAB, 'Larkhaven Lido', Key.ENTER);
    await rep.read('Thea Larkhaven', '.sheet');
    await rep.press('m');
    await rep.until('the note has the focus', async () => (await rep.focused('class')).includes('note-text'));
    await rep.press('Has the keys.');
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    await rep.read('Has the keys.', '.timeline');
    await rep.press('n');
    await rep.see('.composer [aria-label="What"]');
    await rep.press('Fetch the keys', Key.ENTER);
    await rep.read('Fetch the keys', '.next-step');
    await rep.press('v');
    await rep.see('.convert-deal');
    const button = await rep.button('Convert: create contact, account, deal');
    await button.sendKeys(Key.ENTER);
    await rep.read('Larkhaven Lido', '.sheet [data-field="name"]');
    await rep.see('.sheet .climb-levels');
  });

  it('has the whole time of each notice to undo what it says', async () => {
    const note = async (text: string) => {
      await rep.press('m');
      await rep.until('the note has the focus', async () =>
        (await rep.focused('class')).includes('note-text'),
      );
      await rep.press(text);
      await rep.pressWith(Key.CONTROL, Key.ENTER);
      await rep.read(text, '.timeline');
      await rep.until('it is written', async () => (await rep.count('.note-text')) === 0);
      await rep.see('.notice button');
      // Most of the time that a notice stands goes by.
      await rep.driver.executeScript(`const now = Date.now; Date.now = () => now() + 5000;`);
    };
    await note('The keys are fetched.');
    await note('The keys are cut.');
    // Within this it would be gone, if it stood only for what was left to the one before.
    await rep.driver.sleep(1000);
    await rep.clickAt('.notice button');
    await rep.readNoMore('The keys are cut.', '.timeline');
    await rep.read('The keys are fetched.', '.timeline');
  });

  it('wins it and walks back', async () => {
    await rep.press('w');
    await rep.see('.close-deal');
    await rep.until('the reasons have the focus', async () => (await rep.focused('class')).includes('chip'));
    await rep.press(Key.SPACE);
    await rep.pressWith(Key.CONTROL, Key.ENTER);
    await rep.read('Won on 19 Nov 2026', '.sheet');
    await rep.read('Won: Price', '.timeline');
    await rep.driver.navigate().back();
    await rep.read('Thea Larkhaven', '.sheet');
  });

  it('walks a list from sheet to sheet', async () => {
    await rep.goTo('/accounts');
    await rep.see('.table-row');
    await rep.press('j', 'j', Key.ENTER);
    await rep.read('2 of', '.sheet-bar');
    await rep.press('j');
    await rep.read('3 of', '.sheet-bar');
    await rep.press('k');
    await rep.read('2 of', '.sheet-bar');
    await rep.press('k');
    await rep.read('1 of', '.sheet-bar');
    await rep.press(Key.ESCAPE);
    await rep.until('the sheet is closed', async () => (await rep.count('.sheet')) === 0);
  });

  it('says of how many a record is one, however many were fetched', async () => {
    await rep.signOut();
    await rep.signInAs('Bram Tideswell');
    await rep.goTo('/contacts');
    await rep.see('.table-row');
    const count = Number.parseInt(await rep.text('.page-count'), 10);
    expect(count).toBeGreaterThan(900);
    await rep.press('j', Key.ENTER);
    await rep.read(`1 of ${count}`, '.sheet-bar');
    await rep.press('j');
    await rep.read(`2 of ${count}`, '.sheet-bar');
  });
});

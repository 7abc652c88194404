import { By, Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let person: Person;
beforeAll(() => {
  person = stage.person;
});

const addLead = async (name: string, more: Record<string, string> = {}) => {
  await person.goTo('/leads?view=all-leads');
  await person.see('.table-row');
  await person.click('Lead', 'contains(@class, "page-tools")');
  await person.type('#name', name);
  for (const [field, text] of Object.entries(more)) await person.type(`#${field}`, text);
  await person.click('Create lead');
  await person.read(`Created lead “${name}”`, '.notice');
};

describe('a lead that is not worth it now', () => {
  it('shows what is known of it: the four questions, and a score that follows', async () => {
    await person.signInAs('Tamsin Rudd');
    await addLead('Morwenna Farskerry', { phone: '01632 960 118' });
    await person.read('Morwenna Farskerry', '.record');
    await person.until(
      'a phone number is worth five points',
      async () => (await person.text('.score b')) === '5',
    );
    await person.read('Call within the day', '.guide');
    await person.clickAt('[aria-label="Need: not known. Change"]');
    await person.see('[aria-label="Need: met. Change"]');
    await person.clickAt('[aria-label="Timing: not known. Change"]');
    await person.until(
      'two questions met are worth twenty more',
      async () => (await person.text('.score b')) === '25',
    );
    await person.clickAt('.score');
    await person.read('Two questions met', '.score-rules');
    await person.clickAt('.score');
  });

  it('is let go with a reason and a day to look again, and is back on that day’s list', async () => {
    await person.click('Let go');
    await person.click('No budget', '@role="dialog"');
    await person.type('#lookAgainOn', `19 Nov 2026${Key.ENTER}`);
    // Enter takes the day, and with it the form is complete.
    await person.read('Disqualified “Morwenna Farskerry”', '.notice');
    await person.read('Let go: No budget', '.record');
    await person.goTo('/');
    await person.read('Look again: Morwenna Farskerry', '.today');
  });
});

describe('a lead worth it', () => {
  it('is worked from untouched to converted, at an account that is there already', async () => {
    await person.goTo('/accounts?view=all-accounts');
    await person.see('.table-row');
    const known = await person.text('.table-row [data-path="name"]');
    await addLead('Lowen Tresidder', { organisation: `${known} Ltd`, phone: '01632 960 444' });
    await person.read('not touched yet', '.record');
    // A call that was made, with its outcome, is the first touch.
    await person.click('Log a call');
    await person.type('.composer textarea', 'Wants gauges at both quays');
    await person.click('Save call');
    await person.read('Wants gauges at both quays', '.timeline');
    await person.read('first touched after', '.record-head');
    for (const question of ['Budget', 'Authority', 'Need', 'Timing']) {
      await person.clickAt(`[aria-label="${question}: not known. Change"]`);
      await person.see(`[aria-label="${question}: met. Change"]`);
    }
    await person.click('Convert');
    await person.read('Same name', '.convert');
    await person.driver
      .findElement({
        xpath: `//label[contains(@class, "ant-radio-wrapper")][.//b[normalize-space()="${known}"]]`,
      })
      .click();
    await person.click('Another person');
    await person.press(...'Piran Tresidder', Key.TAB, ...'Harbour engineer');
    await person.type('#convert-value', '18000');
    await person.click('Convert: create 2 contacts, deal; link account');
    await person.read('Converted “Lowen Tresidder”', '.notice');
    await person.read(known, '.sheet');
    await person.read('Wants gauges at both quays', '.timeline');
  });

  it('can be had back until something rests on what it became', async () => {
    await person.goTo('/leads?view=all-leads');
    await person.see('.table-row');
    await person.press('/', ...'Lowen Tresidder');
    await person.choose('Lead');
    await person.read('Became', '.sheet');
    await person.click('Reverse');
    await person.click('Reverse conversion');
    await person.read('Undone: Converted “Lowen Tresidder”', '.notice');
    await person.click('Convert', 'contains(@class, "record-actions")');
    await person.see('.convert');
    await person.press(Key.ESCAPE);
  });
});

describe('a contact', () => {
  it('belongs to a second account, and takes a file dropped on it', async () => {
    await person.goTo('/contacts?view=all-contacts');
    await person.see('.table-row');
    await person.press('j', Key.ENTER);
    await person.see('.memberships');
    await person.click('Another account');
    await person.clickAt('.memberships .ant-select');
    await person.type('#membership-other', 'Fallow');
    await person.choose('Fallow');
    await person.type('[aria-label="Role there"]', 'Board member');
    await person.click('Add', 'contains(@class, "memberships")');
    await person.read('Board member', '.member-list');
    await person.driver.executeScript(
      `const files = new DataTransfer();
       files.items.add(new File(['tide tables'], 'tides.txt', { type: 'text/plain' }));
       document.querySelector('.record').dispatchEvent(
         new DragEvent('drop', { dataTransfer: files, bubbles: true, cancelable: true }));`,
    );
    await person.read('Added the file “tides.txt”', '.notice');
    await person.read('tides.txt', '.record-files');
    await person.read('tides.txt', '.timeline');
    await person.click('Delete tides.txt');
    await person.readNoMore('tides.txt', '.record-files');
  });

  it('has its pictures and PDFs looked at over the record', async () => {
    const pixel =
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAIAAACQd1PeAAAADElEQVR4nGPgj0kGAAFMAM/8J8QvAAAAAElFTkSuQmCC';
    await person.driver.executeScript(
      `const picture = Uint8Array.from(atob(arguments[0]), (sign) => sign.charCodeAt(0));
       const files = new DataTransfer();
       files.items.add(new File([picture], 'quay.png', { type: 'image/png' }));
       files.items.add(new File(['%PDF-1.4\\n%%EOF'], 'survey.pdf', { type: 'application/pdf' }));
       document.querySelector('.record').dispatchEvent(
         new DragEvent('drop', { dataTransfer: files, bubbles: true, cancelable: true }));`,
      pixel,
    );
    await person.read('survey.pdf', '.record-files');
    await person.click('survey.pdf');
    await person.see('.preview iframe[title="survey.pdf"]');
    await person.press(Key.ARROW_RIGHT);
    await person.until('the picture is drawn', async () => {
      const width = 'return document.querySelector(\'.preview img[alt="quay.png"]\').naturalWidth';
      return (await person.driver.executeScript<number>(width)) === 1;
    });
    await person.read('2 of 2', '.preview-foot');
    await person.press(Key.ESCAPE);
    await person.until('it is closed', async () => (await person.count('.preview')) === 0);
  });

  it('is not to be reminded of, and then is again', async () => {
    await person.read('in touch again by', '.touch-line');
    await person.click('Stop reminding');
    await person.read('no reminders', '.touch-line');
    await person.click('Remind again');
    await person.read('in touch again by', '.touch-line');
    await person.press(Key.ESCAPE);
  });
});

describe('the same person twice', () => {
  it('is found, merged field by field, and parted again', async () => {
    await addLead('Runa Twinmoor', { email: 'runa@twinmoor.example', organisation: 'Twinmoor Pilots' });
    await addLead('R. Twinmoor', { email: 'runa@twinmoor.example', interest: 'waves' });
    await person.goTo('/duplicates?of=lead');
    await person.click('Look again');
    await person.read('R. Twinmoor', '.pairs');
    await person.read('Same email', '.pairs');
    await person.click('Merge', 'contains(@class, "pairs")');
    await person.read('R. Twinmoor, goes', '.merge');
    await person.click('Merge into Runa Twinmoor');
    await person.read('Merged “R. Twinmoor” into “Runa Twinmoor”', '.notice');
    await person.readNoMore('R. Twinmoor', '.pairs');
    await person.click('Undo', 'contains(@class, "notice")');
    await person.read('Undone', '.notice');
    await person.click('Look again');
    await person.read('R. Twinmoor', '.pairs');
    await person.signOut();
  });
});

describe('a field of one’s own', () => {
  it('is made in Setup, with its choices', async () => {
    await person.signInAs('Bram Tideswell');
    await person.goTo('/setup/fields?of=lead');
    await person.click('Field', 'contains(@class, "page-tools")');
    const form = '.own-field-form';
    await person.type(`${form} input`, 'Hull');
    await person.clickAt(`${form} [aria-label="Type"]`);
    await person.choose('Choice');
    for (const choice of ['Steel', 'Wood']) {
      await person.type('[aria-label="Another choice"]', choice + Key.ENTER);
      await person.see(`[aria-label="Label of ${choice.toLowerCase()}"]`);
    }
    await person.click('Save field');
    await person.read('Created custom field “Hull”', '.notice');
    await person.read('Hull', '.own-fields');
  });

  it('is there at once on the sheet, in the sentence, the table, files in and files out', async () => {
    await addLead('Ulla Hullmoor');
    await person.read('Hull', '.facts');
    const fact = await person.driver.findElement(
      By.xpath('//dt[normalize-space()="Hull"]/following-sibling::dd//button'),
    );
    await fact.click();
    await person.choose('Steel');
    await person.read('Changed hull of lead “Ulla Hullmoor”', '.notice');

    await person.goTo('/leads?view=all-leads');
    await person.see('.table-row');
    await person.clickToken('where…');
    await person.pick('hull');
    await person.pick('steel');
    await person.press(Key.ESCAPE);
    await person.until('one lead has that hull', async () =>
      (await person.text('.page-count')).startsWith('1 lead'),
    );
    await person.click('Columns');
    await person.pick('hull');
    await person.press(Key.ESCAPE);
    await person.read('Hull', '.table-head');
    await person.read('Steel', '.table-row');

    const exported = await person.driver.executeAsyncScript<string>(
      `const done = arguments[0];
       fetch('/api/v1/imports/lead/template').then((r) => r.text()).then(done, (e) => done(String(e)));`,
    );
    expect(exported).toContain('Hull');
    await person.goTo('/imports');
    await person.see('.file-drop');
    await person.giveFile('hulls.csv', 'Name,Hull\nPer Hullmoor,Wood\nEli Hullmoor,Glass\n');
    await person.read('1\nwith a cell left empty', '.import-counts');
    await person.clickAt('[aria-label="What “Glass” stands for"]');
    await person.choose('Add “Glass” as a choice');
    await person.click('Create 2');
    await person.read('2\ncreated', '.import-counts');
    await person.goTo('/leads?view=all-leads');
    await person.see('.table-row');
    await person.clickToken('where…');
    await person.pick('hull');
    await person.pick('glass');
    await person.press(Key.ESCAPE);
    await person.until('the file’s own choice is asked for', async () =>
      (await person.text('.page-count')).startsWith('1 lead'),
    );
  });
});

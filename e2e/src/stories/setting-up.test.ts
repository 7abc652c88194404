import { By, Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let person: Person;
beforeAll(async () => {
  person = stage.person;
  await person.signInAs('Bram Tideswell');
});

describe('tags', () => {
  it('are renamed wherever they stand, and coloured', async () => {
    await person.goTo('/setup/tags');
    await person.click('Rename or merge newsletter');
    await person.type('[aria-label="New name of newsletter"]', 'quarterly letter');
    await person.click('Rename');
    await person.read('quarterly letter', '.tag-list');
    await person.readNoMore('newsletter', '.tag-list');
    await person.clickAt('[aria-label="Gorse for quarterly letter"]');
    await person.until(
      'it has that colour',
      async () => (await person.text('.tag-list span.tag-gorse')) === 'quarterly letter',
    );
  });

  it('of one meaning become one', async () => {
    await person.click('Rename or merge quarterly letter');
    await person.type('[aria-label="New name of quarterly letter"]', 'reference');
    await person.click('Merge into reference');
    await person.click('Merge tags');
    await person.readNoMore('quarterly letter', '.tag-list');
    await person.read('reference', '.tag-list');
  });
});

describe('what is kept of a lead', () => {
  it('goes where operations say when it is converted', async () => {
    await person.goTo('/setup/conversion');
    await person.clickAt('[aria-label="Interest into the account"]');
    await person.choose('Description');
    await person.see('[aria-label="As usual: Interest"]');

    await person.goTo('/leads?view=all-leads');
    await person.see('.table-row');
    await person.click('Lead', 'contains(@class, "page-tools")');
    await person.type('#name', 'Talan Nanskerris');
    await person.type('#organisation', 'Nanskerris Oyster Beds');
    await person.type('#interest', 'salinity by the hour');
    await person.click('Create lead');
    await person.read('Talan Nanskerris', '.sheet');
    await person.click('Convert');
    await person.click('Convert: create contact, account, deal');
    await person.read('Converted “Talan Nanskerris”', '.notice');
    await person.press('/', ...'Nanskerris Oyster Beds');
    await person.choose('Account');
    await person.read('Nanskerris Oyster Beds', '.record-head');
    await person.read('salinity by the hour', '.facts [data-field="description"]');
  });
});

describe('the short form for a new record', () => {
  it('asks for what operations chose', async () => {
    await person.goTo('/setup/fields?of=contact');
    await person.clickAt('.quick-add-setup .ant-select');
    await person.press(...'Mobile', Key.ENTER, Key.ESCAPE);
    await person.read('Mobile', '.quick-add-setup .ant-select');
    await person.goTo('/contacts?view=all-contacts');
    await person.see('.table-row');
    await person.click('Contact', 'contains(@class, "page-tools")');
    await person.type('#name', 'Kerra Polglaze');
    await person.type('#mobile', '07700 900118');
    await person.click('Create contact');
    await person.read('+44 7700 900118', '.sheet');
  });
});

describe('a field that holds a file', () => {
  it('is made in Setup and filled on the sheet in one step', async () => {
    await person.goTo('/setup/fields?of=deal');
    await person.click('Field', 'contains(@class, "page-tools")');
    await person.type('.own-field-form input', 'Signed order');
    await person.clickAt('.own-field-form [aria-label="Type"]');
    await person.press(...'File');
    await person.choose('File');
    await person.click('Save field');
    await person.read('Signed order', '.own-fields');

    await person.goTo('/deals?view=all-deals');
    await person.see('.table-row');
    await person.press('j', Key.ENTER);
    await person.button('Choose a file for Signed order');
    await person.giveFile('order 12.txt', 'signed', '[aria-label="File for Signed order"]');
    await person.read('Put “order 12.txt” into Signed order', '.notice');
    await person.read('order 12.txt', '.file-fact');
    await person.read('order 12.txt', '.record-files');
    await person.click('Empty Signed order');
    await person.button('Choose a file for Signed order');
    await person.read('order 12.txt', '.record-files');
    await person.signOut();
  });
});

describe('what anyone changed', () => {
  it('is asked about like anything else, and followed up from its line', async () => {
    await person.signInAs('Maren Ollerby');
    await person.goTo('/changes');
    await person.clickAt('[title="By anyone"]');
    await person.see('.changes button');
    await person.clickToken('where…');
    await person.pick('field');
    await person.pick('close date');
    await person.press(Key.ESCAPE);
    await person.until('only close dates are left', async () => {
      const lines = await person.driver.findElements(By.xpath('//li[.//button[@aria-expanded]]'));
      const said = await Promise.all(lines.map((line) => line.getText()));
      return said.length > 0 && said.every((line) => line.includes('Close date was'));
    });
    await person.clickAt('.changes button[aria-expanded="false"]');
    await person.see('.change-follow-up');
    await person.pressWith(Key.CONTROL, Key.ENTER);
    await person.read('Created activity “Ask about:', '.notice');
    await person.goTo('/activities');
    await person.read('Ask about:', 'main');
  });
});

import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let operations: Person;
beforeAll(() => {
  operations = stage.person;
});

const ROWS = 3000;
const FIRMS = 400;

/** A list as it comes from a fair: a title on top, semicolons, decimal commas, doubles, gaps, odd choices. */
const messy = [
  'Visitors of the coast fair;;;;;;;',
  '',
  'Full name;Company;Company website;E-Mail;Tel.;Relation;Town;Boots',
  ...Array.from({ length: ROWS }, (_, at) => {
    const firm = at % FIRMS;
    const mail = at % 90 === 7 ? 'ask at the desk' : `visitor${at}@firm${firm}.example`;
    const relation = at % 50 === 3 ? 'Friend of the house' : at % 2 ? 'customer' : 'Prospect';
    const site = at % 3 === 0 ? `www.firm${firm}.example` : '';
    return `Visitor ${at};Coast Firm ${firm};${site};${mail};01632 960${String(at % 1000).padStart(3, '0')};${relation};Seagrave;${36 + (at % 9)}`;
  }),
  'Visitor 0 again;Coast Firm 0;;visitor0@firm0.example;;;;',
].join('\r\n');

const counts = async () => {
  const found = await operations.driver.findElements({ css: '.import-counts button' });
  return (await Promise.all(found.map((each) => each.getText()))).map((text) => text.replace(/\s+/g, ' '));
};
const say = (what: string, wanted: string[]) =>
  operations.until(what, async () => {
    const said = await counts();
    return wanted.every((each) => said.includes(each));
  });
const giveIn = async (name: string) => {
  await operations.goTo('/imports');
  await operations.see('.file-drop');
  await operations.giveFile(name, messy);
  await operations.see('.file-row');
};
const field = async (heading: string) =>
  (await operations.see(`[aria-label="Field for ${heading}"]`))
    .findElement({ xpath: './ancestor::*[contains(@class, "ant-select")][1]' })
    .getText();

describe('a team’s first import', () => {
  it('is understood before anyone has said anything', async () => {
    await operations.signInAs('Bram Tideswell');
    await giveIn('coast fair.csv');
    expect(await field('Full name')).toBe('Name');
    expect(await field('Company')).toBe('Account’s name');
    expect(await field('Company website')).toBe('Account’s website');
    await say('rows are counted', ['2,966 to create', '1 skipped', '34 refused']);
  });

  it('has its trouble marked in the cells, and mended once for the whole file', async () => {
    await operations.read('Email is not an email address', '.file-table');
    await operations.read('60\nwith a cell left empty', '.import-counts');
    await operations.clickAt('[aria-label="What “Friend of the house” stands for"]');
    await operations.choose('Partner');
    await say('the odd word is understood', ['2,966 to create', '34 refused']);
    await say('accounts come with them', [`${FIRMS} accounts to create with them`]);
    await operations.clickAt('.import-beside button');
    await operations.read('Coast Firm 0', '.examples');
    await operations.click('Back to the rows');
    await operations.clickAt('.import-counts .attention button');
    await operations.read('Visitor 7 · Coast Firm 7', '.examples');
    await operations.read('Email is not an email address', '.examples');
    await operations.click('Back to the rows');
  });

  it('makes a field of a column that has none', async () => {
    await operations.clickAt('[aria-label="Field for Boots"]');
    await operations.choose('New field “Boots” (number)');
    await operations.read('Created custom field “Boots”', '.notice');
    await operations.until('the column fills it', async () => (await field('Boots')) === 'Boots');
    await say('nothing else has changed', ['2,966 to create', '34 refused']);
  });

  it('does what its button says, all at once, and gives the refused rows back', async () => {
    await operations.click('Create 2,966');
    await operations.until('it says what became of every row', async () => {
      const said = (await operations.text('.import-counts')).replace(/\s+/g, ' ');
      return said === '2,966 created 1 skipped 34 refused 400 accounts created with them';
    });
    await operations.button('Save the refused rows');
    await operations.clickAt('.import-beside a');
    await operations.read('Coast Firm 399', '.changes');
    await operations.driver.navigate().back();
    await operations.click('See the contacts');
    await operations.read('Visitor ', '.table');
    await operations.press('/');
    await operations.press(...'visitor 1234');
    await operations.read('Visitor 1234', '.go-anywhere-list');
  });

  it('of the same file again changes nothing', async () => {
    await giveIn('coast fair.csv');
    await operations.read('This very file was imported before');
    await operations.read('“friend of the house” in Relation', '.import-texts');
    await operations.read('Partner', '.import-texts');
    await say('all rows are there already', ['0 to create', '0 to update', '2,966 unchanged', '34 refused']);
    await operations.button('Nothing to write');
  });

  it('is undone as a whole', async () => {
    await operations.goTo('/imports');
    await operations.click('Undo the import of coast fair.csv');
    await operations.read('Undone: Imported 2,966 contacts from coast fair.csv', '.ant-notification');
    await operations.goTo('/contacts?view=all-contacts');
    await operations.until('nobody of them is left', async () => {
      await operations.goTo(
        `/contacts?d=${encodeURIComponent(JSON.stringify({ question: { version: 1, object: 'contact', where: { field: 'name', is: 'startsWith', value: 'Visitor ' } }, draw: 'table' }))}`,
      );
      await operations.read('contacts', '.page-count');
      return (await operations.text('.page-count')).startsWith('0');
    });
  });
});

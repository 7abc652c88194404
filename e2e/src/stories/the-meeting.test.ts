import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let manager: Person;
beforeAll(() => {
  manager = stage.person;
});

const MENU = '.ant-dropdown:not(.ant-dropdown-hidden)';
const DIALOG = '@class="ant-modal-footer"';
/** Chooses what stands in a menu. */
const take = async (menu: string, item: string) => {
  await manager.clickAt(`[aria-label="${menu}"]`);
  await manager.see(`${MENU} [role="menuitem"]`);
  await manager.click(item);
};
const FOLDERS = '.ant-select-dropdown:not(.ant-select-dropdown-hidden)';
/** Makes a folder in the open dialog, and chooses it. */
const makeFolder = async (name: string) => {
  await manager.clickAt('[aria-label="Folder"]');
  await manager.see(`${FOLDERS} [aria-label="Name of a new folder"]`);
  await manager.type('[aria-label="Name of a new folder"]', name);
  await manager.press(Key.ENTER);
  await manager.read(name, '.ant-modal .ant-select');
};
const chooseFolder = async (name: string) => {
  await manager.clickAt('[aria-label="Folder"]');
  await manager.clickAt(`.ant-select-item-option[title="${name}"]`);
};
const heading = () => manager.text('.presenting h1');

describe('the monthly meeting', () => {
  it('begins with the ready-made pack, made one’s own', async () => {
    await manager.signInAs('Maren Ollerby');
    await manager.goTo('/packs');
    await manager.click('Monthly meeting');
    await manager.read('Close dates that moved', '.pack-pages');
    await manager.click('Make it my own');
    await manager.type('#view-name', 'Coast, November');
    await manager.click('Save pack');
    await manager.read('Coast, November', 'h1');
  });

  it('puts its pages in order, takes one away and adds a note', async () => {
    await manager.clickAt('.pack-pages li:nth-child(4) a');
    await manager.read('Person by person', '.pack-page-shown h2');
    await manager.click('Move “Person by person” up');
    await manager.read('Person by person', '.pack-pages li:nth-child(3)');
    await manager.clickAt('.pack-pages li:nth-child(8) a');
    await manager.click('Take “Deals adrift” away');
    await manager.readNoMore('Deals adrift', '.pack-pages');
    await manager.click('Undo');
    await manager.read('Deals adrift', '.pack-pages');
    await manager.click('Add a page');
    await manager.see('[aria-label="Find what to show"]');
    await manager.press(...'note');
    await manager.press(Key.ENTER);
    await manager.read('What to talk about', '.pack-pages');
    await manager.read('What to talk about', '.pack-page-shown');
    await manager.clickAt('.ant-notification-notice-close');
    await manager.clickAt('[aria-label="Change “What to talk about”"]');
    await manager.type('#page-text', 'Who drives to the harbour');
    await manager.click('Save', DIALOG);
    await manager.read('Who drives to the harbour', '.pack-page-shown');
  });

  it('is presented with the arrow keys, its figures open, and what is decided is noted with one key', async () => {
    await manager.clickAt('.pack-pages li:first-child a');
    await manager.read('The pipeline as a whole', '.pack-page-shown h2');
    await manager.press('f');
    await manager.until(
      'the first page is shown',
      async () => (await heading()) === 'The pipeline as a whole',
    );
    expect(await manager.count('.rail:not([hidden])')).toBe(1);
    expect(
      await manager.driver.executeScript("return getComputedStyle(document.querySelector('.rail')).display"),
    ).toBe('none');
    for (const name of ['Stages and how they ended', 'Person by person', 'Closed against needed']) {
      await manager.press(Key.ARROW_RIGHT);
      await manager.until(`${name} is shown`, async () => (await heading()) === name);
    }
    await manager.press(Key.ARROW_LEFT);
    await manager.until('it goes back', async () => (await heading()) === 'Person by person');
    for (let at = 0; at < 4; at += 1) await manager.press(Key.ARROW_RIGHT);
    await manager.until('close dates are shown', async () => (await heading()) === 'Close dates that moved');
    await manager.clickAt('.presenting .report-table tbody td a');
    const first = '.records-beside .table-body [role="row"]:first-child [data-path="name"]';
    const deal = await manager.text(first);
    await manager.clickAt(first);
    await manager.see('.sheet');
    await manager.press('f');
    await manager.read('Plan a follow-up', '.ant-modal');
    await manager.read(deal, '.ant-modal .note-on');
    await manager.type('#note-what', 'Ask why the date moved again');
    await manager.click('Plan it', DIALOG);
    await manager.read('Follow-up: “Ask why the date moved again”', '.ant-notification');
    await manager.press('d');
    await manager.read('Note a decision', '.ant-modal');
    await manager.type('#note-what', 'No discount before the survey');
    await manager.pressWith(Key.CONTROL, Key.ENTER);
    await manager.read('Decision: “No discount before the survey”', '.ant-notification');
    await manager.read('Ask why the date moved again', '.sheet');
  });

  it('ends with what was decided, and goes back to where it was', async () => {
    for (let at = 0; at < 3; at += 1) await manager.press(Key.ARROW_RIGHT);
    await manager.until('decisions are shown', async () => (await heading()) === 'What was decided');
    await manager.read('No discount before the survey', '.noted-list');
    await manager.read('the deal is in', '.noted-list');
    await manager.press(Key.ESCAPE);
    await manager.see('.pack-pages');
  });

  it('is taken out as one PDF', async () => {
    await manager.click('PDF');
    await manager.until('every page is drawn', async () => (await manager.count('.pack-drawn')) === 1);
    await manager.until('it is done', async () => (await manager.count('.pack-drawn')) === 0);
    expect(await manager.count('.ant-notification-notice-error')).toBe(0);
  });

  it('is frozen into a folder, and shows what the meeting saw', async () => {
    await manager.click('Freeze');
    await makeFolder('Meetings');
    await manager.click('Freeze its reports');
    await manager.read('frozen', '.pack-pages li:first-child');
    await manager.clickAt('.pack-pages li:first-child a');
    await manager.read('Taken 19 Nov 2026', '.pack-page-shown');
    await manager.see('.pack-page-shown .report-table');
  });

  it('is gone on with next month, live again and with last time’s decisions in front', async () => {
    await take('Pack actions', 'Begin the next meeting’s pack…');
    await manager.type('#next-name', 'Coast, December');
    await manager.click('Make it', DIALOG);
    await manager.read('Coast, December', 'h1');
    await manager.read('What was decided last time', '.pack-pages li:first-child');
    await manager.read('Ask why the date moved again', '.noted-list');
    await manager.read('report, live', '.pack-pages li:nth-child(2)');
    await manager.readNoMore('Who drives to the harbour', '.pack-pages');
  });
});

describe('a snapshot', () => {
  it('lies in its folder, and opens the records behind its figures as they were', async () => {
    await manager.goTo('/snapshots');
    await manager.click('Meetings');
    await manager.click('The pipeline as a whole');
    await manager.read('Each reader sees the records that they see', '.frozen-line');
    await manager.clickAt('.report-table tbody td a');
    await manager.read('as they were', '.records-beside h2');
    await manager.clickAt('.frozen-records tbody tr:first-child .link-button');
    await manager.see('.sheet-kind');
    await manager.press(Key.ESCAPE);
    await manager.until('the sheet is closed', async () => (await manager.count('.sheet')) === 0);
    await manager.see('.frozen-records');
  });

  it('is put beside how it is now, and says which records make the difference', async () => {
    const first = '.frozen-records tbody tr:first-child .link-button';
    const name = await manager.text(first);
    await manager.clickAt(first);
    await manager.clickAt('.sheet [aria-label="More"]');
    await manager.clickAt(`${MENU} .ant-dropdown-menu-item-danger`);
    await manager.clickAt('.ant-modal-confirm-btns .ant-btn-dangerous');
    await manager.until('the sheet is closed', async () => (await manager.count('.sheet')) === 0);
    await manager.clickAt('[aria-label="Close the records"]');
    await manager.clickAt('[aria-label="Compare with"]');
    await manager.clickAt('.ant-select-item-option[title="How it is now"]');
    await manager.read('differ', '.report-body [role="status"]');
    await manager.clickAt('.compared-change a');
    await manager.read('Went out: 1 deal', '.records-beside');
    await manager.read(name, '.records-beside');
  });

  it('is taken on a schedule as well', async () => {
    await manager.goTo('/reports/win-rate');
    await manager.see('.report-drawing');
    await manager.press('f');
    await manager.clickAt('.ant-modal .ant-segmented-item:nth-child(2)');
    await manager.read('On the last working day of each month at 18:00', '.rhythm-fields');
    await chooseFolder('Meetings');
    await manager.click('Save schedule');
    await manager.read('Taken on a schedule', '.snapshot-plans');
    await manager.read('Next 30 Nov 2026, 18:00', '.snapshot-plans');
    await take('What to do with “Win rate by owner”', 'Pause');
    await manager.read('Paused', '.snapshot-plans');
  });

  it('is seen by others once its folder is shared, each with the records that they see', async () => {
    await take('What to do with “Meetings”', 'Rename and share…');
    await manager.clickAt('.ant-modal .ant-radio-wrapper:last-child');
    await manager.click('Save folder');
    await manager.read('Seen by everyone', '.folder-head');
    await manager.driver.manage().deleteAllCookies();
    await manager.signInAs('Tamsin Rudd');
    await manager.goTo('/snapshots');
    await manager.click('Meetings');
    await manager.click('The pipeline as a whole');
    await manager.read('The figures are of the', '.report-body');
    expect(await manager.count('[aria-label="What to do with “Meetings”"]')).toBe(0);
  });
});

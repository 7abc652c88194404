import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let director: Person;
beforeAll(() => {
  director = stage.person;
});

const total = async (within: string) =>
  Number(/^[\d,]+/.exec(await director.text(`${within} .page-count`))?.[0].replaceAll(',', ''));
const askedOf = (question: object) =>
  `/deals?d=${encodeURIComponent(JSON.stringify({ question: { version: 1, object: 'deal', ...question }, draw: 'table' }))}`;
describe('a look back', () => {
  it('shows the open pipeline as it stood, from the end of the sentence', async () => {
    await director.signInAs('Signe Abernock');
    await director.goTo('/reports/pipeline-by-stage');
    await director.see('.report-drawing');
    const now = await total('.report');
    await director.clickToken('as it stood…');
    await director.pick('at the end of last fiscal year');
    await director.read('At the end of 31 Mar 2026, from the change log', '.sentence');
    await director.until('the deals of that day are counted', async () => (await total('.report')) !== now);
    await director.clickAt('.report-table tbody tr:nth-child(2) > :nth-child(2) a');
    await director.see('.records-beside .table-row');
    expect(await director.count('.records-beside .table-row input:not(:disabled)')).toBe(0);
    await director.click('Open as a list');
    await director.read('as it stood at the end of last fiscal year', '.sentence');
    await director.read('Enquiry checked', '.sentence');
  });

  it('tells a value of yesterday from one of today, and changes neither', async () => {
    const question = { version: 1, object: 'contact', columns: ['name', 'role', 'lastTouchAt'], sort: [] };
    await director.goTo(`/contacts?d=${encodeURIComponent(JSON.stringify({ question, draw: 'table' }))}`);
    const role = () => director.text('.table-body .table-row:first-child [role=gridcell]:nth-child(3)');
    const before = await role();
    await director.press('j', Key.ARROW_RIGHT, 'e');
    await director.see('.table-body input:not([type=checkbox])');
    await director.pressWith(Key.CONTROL, 'a');
    await director.press(...'Head of looking back', Key.ENTER);
    await director.until('the role is another', async () => (await role()) === 'Head of looking back');
    await director.clickToken('as it stood…');
    await director.pick('yesterday');
    await director.until('the role is that of yesterday', async () => (await role()) === before);
    await director.read('One part was left out: last touch, of which no log is kept', '.sentence');
    await director.readNoMore('Last touch', '.table-head');
    await director.press(Key.ESCAPE, 'j', Key.ARROW_RIGHT, 'e');
    expect(await director.count('.table-body input:not([type=checkbox])')).toBe(0);
    await director.clickToken('as it stood yesterday');
    await director.press(Key.ESCAPE, Key.BACK_SPACE);
    await director.until('it is now again', async () => (await role()) === 'Head of looking back');
  });

  it('asks which deals closed later than planned, by another field', async () => {
    await director.goTo(askedOf({ columns: ['name', 'closeOn', 'closedOn'] }));
    const all = await total('.view-head');
    await director.clickToken('where…');
    await director.pick('closed on');
    // When it was is asked at once, and put off.
    await director.read('closed on', '.sentence');
    await director.until('it is asked', async () => (await director.focused('class')).includes('pick-field'));
    await director.until('nothing is asked any more', async () => {
      if ((await director.count('.token-popover:not(.ant-popover-hidden)')) === 0) return true;
      await director.press(Key.ESCAPE);
      return false;
    });
    await director.clickToken('is in');
    await director.pick('is after');
    await director.clickToken('which?');
    await director.click('Another field');
    await director.pick('close date');
    await director.read('closed on is after close date', '.sentence');
    await director.until('fewer are left', async () => (await total('.view-head')) < all);
    const days = await director.driver.executeScript<string[][]>(`
      return [...document.querySelectorAll('.table-body .table-row')].slice(0, 8).map((row) =>
        [...row.querySelectorAll('[role=gridcell]')].slice(2, 4).map((cell) => cell.innerText))`);
    for (const [planned, closed] of days) expect(Date.parse(closed)).toBeGreaterThan(Date.parse(planned));
  });

  it('asks which deals were long in a stage', async () => {
    const long = { field: 'days', is: 'above', value: 60 };
    const where = { related: 'stageStay.deal', is: 'atLeast', value: 1, where: long };
    await director.goTo(askedOf({ where, columns: ['name', 'stage'] }));
    await director.read('there are stays in stages where days stayed is above 60', '.sentence');
    expect(await total('.view-head')).toBeGreaterThan(0);
  });
});

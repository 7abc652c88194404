import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { setStage } from './stage';

const stage = setStage();
let rep: Person;
beforeAll(() => {
  rep = stage.person;
});

/** The names of the lines, from top to bottom. */
const lines = () =>
  rep.driver.executeScript<string[]>(`
  return [...document.querySelectorAll('.work')].map((line) => line.dataset.activity)`);
const active = () =>
  rep.driver.executeScript<string>(`
  return document.querySelector('.work-active')?.dataset.activity ?? ''`);
/** Goes to a line that has not been dealt with. */
async function next(): Promise<string> {
  const before = await active();
  await rep.press('j');
  await rep.until('a line is chosen', async () => !['', before].includes(await active()));
  return active();
}
const isGone = (id: string) =>
  rep.until(`line ${id} is dealt with`, async () => {
    const line = await rep.driver.findElements({ css: `[data-activity="${id}"] .work-line` });
    return line.length === 0 || (await rep.count(`[data-activity="${id}"] form`)) === 0;
  });

describe('a morning by keyboard alone', () => {
  it('begins with the order one gives it', async () => {
    await rep.signInAs('Tamsin Rudd');
    await rep.see('[aria-label="Today"] .work');
    const inToday = () =>
      rep.driver.executeScript<string[]>(`
      return [...document.querySelectorAll('[aria-label="Today"] .work')].map((line) => line.dataset.activity)`);
    const before = await inToday();
    expect(before.length).toBeGreaterThan(1);
    while ((await active()) !== before[0]) await next();
    await rep.press('J');
    await rep.until('it stands further down', async () => (await inToday())[1] === before[0]);
    await rep.goTo('/');
    await rep.see('[aria-label="Today"] .work');
    expect((await inToday()).slice(0, 2)).toEqual([before[1], before[0]]);
  });

  it('deals with ten lines where they stand', async () => {
    await rep.goTo('/');
    await rep.see('.work');
    const all = await lines();
    expect(all.length).toBeGreaterThanOrEqual(10);
    const dealt: string[] = [];
    for (const how of ['done', 'drop', 'move', 'done', 'drop', 'move', 'done', 'drop', 'move', 'tomorrow']) {
      const id = await next();
      dealt.push(id);
      if (how === 'done') {
        await rep.press('d');
        await rep.see(`[data-activity="${id}"] form`);
        await rep.until('the form has the focus', async () =>
          /chip|ant-input/.test(await rep.focused('class')),
        );
        if ((await rep.focused('class')).includes('chip')) await rep.press('2');
        await rep.until('the note has the focus', async () => (await rep.focused('aria-label')) === 'Note');
        await rep.press(...'All well');
        await rep.pressWith(Key.CONTROL, Key.ENTER);
        await rep.until('it is done', async () => !(await lines()).includes(id));
      } else if (how === 'drop') {
        await rep.press('x');
        await rep.until('why is asked', async () => (await rep.focused('aria-label')) === 'Why');
        await rep.press(...'Solved by itself', Key.ENTER);
        await rep.until('it is dropped', async () => !(await lines()).includes(id));
      } else if (how === 'move') {
        await rep.press('r');
        await rep.until('when is asked', async () => (await rep.focused('aria-label')) === 'When');
        await rep.press(...'in 20 days', Key.ENTER);
        await rep.until('it is moved', async () => !(await lines()).includes(id));
      } else {
        await rep.press('t');
        await rep.read('tomorrow', `[data-activity="${id}"] .work-when`);
      }
      await isGone(id);
    }
    expect(new Set(dealt).size).toBe(10);
    const left = await lines();
    expect(all.filter((id) => !left.includes(id)).length).toBe(9);
  });

  it('plans a call in one line, which says what it understood', async () => {
    await rep.goTo('/contacts');
    await rep.see('.table-row');
    const name = await rep.text('.table-row[aria-rowindex="2"] [data-path="name"]');
    await rep.press('/');
    await rep.press(...`call ${name} Thu 25:00`);
    await rep.read('“Thu 25:00” is no day or time', '.go-anywhere-list');
    for (let at = 0; at < '25:00'.length; at += 1) await rep.press(Key.BACK_SPACE);
    await rep.press(...'10:00');
    await rep.read(`Call with ${name}, Thu 26 Nov 10:00`, '.go-anywhere-list');
    await rep.press(Key.ENTER);
    await rep.read('Created activity “Call”', '.notice');
    await rep.goTo('/');
    await rep.read(name, '[aria-label="Upcoming"]');
  });

  it('looks at the week, and a manager at the team’s day', async () => {
    await rep.press('w');
    await rep.see('.week-today');
    await rep.see('.week article');
    await rep.driver.manage().deleteAllCookies();
    await rep.signInAs('Maren Ollerby');
    await rep.see('.team-day tbody tr');
    await rep.clickAt('.team-day tbody tr:last-child .link-button');
    await rep.read('Tamsin Rudd', '[aria-label="Whose day"]');
    await rep.until('only that day is left', async () => (await rep.count('.team-day')) === 0);
  });
});

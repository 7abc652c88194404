import { Key } from 'selenium-webdriver';
import { type Person } from '../person';
import { send, signIn } from '../wire';
import { setStage } from './stage';

const stage = setStage();
let manager: Person;
beforeAll(() => {
  manager = stage.person;
});

/** The count of the list that a figure has opened, and its question in words. */
const openedList = async () => {
  await manager.see('.table-row');
  await manager.read('not saved', '.page-count');
  const count = Number((await manager.text('.page-count')).replace(/\D/g, ''));
  return { count, words: (await manager.text('.sentence')).replace(/\s+/g, ' ').replaceAll(' ,', ',') };
};

describe('a manager preparing the meeting', () => {
  it('sees the team’s open pipeline, won against target, and the win rate', async () => {
    await manager.signInAs('Maren Ollerby');
    await manager.press('g', 'p');
    await manager.see('.bar-segment');
    await manager.read('won in Q3 2026/27 of £350,000', '.waterline');
    await manager.read('Win rate', '.team-people');
    for (const rep of ['Davin Marchbank', 'Ewan Castellin', 'Nora Fairlough', 'Tamsin Rudd'])
      await manager.read(rep, '.team-people');
  });

  it('opens the deals behind the whole', async () => {
    const words = await manager.text('.page-head .page-count');
    await manager.clickAt('.page-head h1 a');
    const { count } = await openedList();
    expect(words).toContain(`in ${count} deals`);
    await manager.driver.navigate().back();
  });

  it('opens the deals behind a stage and behind one segment of it', async () => {
    const label = await (await manager.see('.bar-labels a')).getAttribute('aria-label');
    await manager.clickAt('.bar-labels a');
    const stage = await openedList();
    expect(label).toMatch(new RegExp(`^Terms agreed: ${stage.count} deal`));
    expect(stage.words).toContain('stage is Terms agreed');
    await manager.driver.navigate().back();

    const segment = await manager.see('.stage-bars svg a');
    const segmentLabel = await segment.getAttribute('aria-label');
    await segment.click();
    const part = await openedList();
    expect(segmentLabel).toContain(`: ${part.count} deal`);
    expect(part.words).toContain('owner is');
    await manager.driver.navigate().back();
  });

  it('opens what was won, by the waterline and person by person', async () => {
    const won = await manager.text('.waterline .of-won');
    await manager.clickAt('.waterline .of-won a');
    const { count, words } = await openedList();
    expect(won).toContain(`${count} deal`);
    expect(words).toContain('closed on is in this fiscal quarter, outcome is Won');
    await manager.driver.navigate().back();
    await manager.see('.team-people tbody tr');
    const figures = await manager.driver.findElements({ css: '.team-people tbody tr td:nth-child(7) a' });
    const wanted = Number(await figures[0].getText());
    await figures[0].click();
    expect((await openedList()).count).toBe(wanted);
    await manager.driver.navigate().back();
  });

  it('counts the win rate over the period chosen', async () => {
    const before = await manager.text('.team-rate');
    await manager.clickAt('.team-people .ant-select');
    await manager.choose('Last fiscal year');
    await manager.until('the rate is another', async () => (await manager.text('.team-rate')) !== before);
    const [, rate, won, lost] =
      /Win rate (\d+)%.*?(\d+) deals won, (\d+) deals lost/s.exec(await manager.text('.team-rate')) ?? [];
    expect(Number(rate)).toBe(Math.round((100 * Number(won)) / (Number(won) + Number(lost))));
  });

  it('sees the team’s grid, and one rep’s alone', async () => {
    await manager.press('g', 'd');
    await manager.see('.strip');
    const all = await manager.count('.strip');
    await manager.clickToken('and…');
    await manager.pick('owner');
    await manager.pick('Tamsin');
    await manager.press(Key.TAB);
    await manager.until('fewer deals stand there', async () => (await manager.count('.strip')) < all);
  });

  it('groups accounts by tag: each in the group of every tag it has, and says so', async () => {
    const where = { field: 'tags', is: 'allOf', value: ['framework', 'reference'] };
    const question = { version: 1, object: 'account', where, groups: [{ field: 'tags' }], columns: ['name'] };
    await manager.goTo(`/accounts?d=${encodeURIComponent(JSON.stringify({ question, draw: 'table' }))}`);
    await manager.read('An account with several tags counts in each of those groups', '.sentence');
    await manager.read('reference', '.table-body');
    const all = Number((await manager.text('.page-count')).replace(/\D/g, ''));
    expect(all).toBeGreaterThan(0);
    const heads = await manager.driver.findElements({ css: '.group-count' });
    const counts = await Promise.all(heads.map(async (head) => Number(await head.getText())));
    expect(counts.filter((count) => count === all).length).toBeGreaterThanOrEqual(2);
    const rows = await manager.count('.table-row:not(.table-group)');
    expect(rows).toBe(counts.reduce((sum, count) => sum + count, 0));
  });

  it('is told which deals are in no sum, for want of a rate, and opens them', async () => {
    const { headers, me } = await signIn(stage.server, 'maren.ollerby@brackwater.example');
    const session = await send(stage.server, 'GET', '/session', undefined, headers);
    const [{ id, pipeline }] = session.body.stages as { id: number; pipeline: number }[];
    const deal = { name: 'Basel gauges', value: 2_500_000, currency: 'CHF', closeOn: '2026-12-20' };
    const body = { ...deal, owner: me, pipeline, stage: id };
    expect((await send(stage.server, 'POST', '/deals', body, headers)).status).toBe(201);
    await manager.goTo('/team');
    await manager.read('Not in the sums of the open pipeline, as the currency has no rate: 1 deal.', '.team');
    await manager.clickAt('.team-waterline .unrated a');
    expect((await openedList()).count).toBe(1);
    await manager.read('Basel gauges', '.table-body');
  });

  it('does not show a rep what is a manager’s', async () => {
    await manager.signOut();
    await manager.signInAs('Tamsin Rudd');
    expect(await manager.text('.rail')).not.toContain('Team pipeline');
  });
});

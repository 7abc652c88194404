import { type ReadAnswer, type RecordsAnswer } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const read = async (text: string, who = rep) =>
  (await who.call('post', '/questions/read', { text }).expect(200)).body as ReadAnswer;

describe('a typed question', () => {
  it('is read with the stages, people, teams and lists of the organisation', async () => {
    const { printed, unread } = await read(
      'open deals in survey booked of Nora over 5k closing this year by stage',
    );
    expect(unread).toEqual([]);
    expect(printed).toBe(
      'Deals where outcome is Open and stage is Survey booked and owner is Nora Fairlough and value is above 5,000.00 and close date is in this fiscal year, grouped by stage',
    );
    expect((await read('deals of the coast team')).printed).toContain('owner’s team is Harbours & Coast');
  });

  it('knows the lists and views that are the person’s to see, and no others', async () => {
    const body = { name: 'Quayside friends', object: 'contact', sharing: 'private' };
    await rep.call('post', '/lists', body).expect(201);
    expect((await read('contacts on the list Quayside friends')).printed).toBe(
      'Contacts where list is Quayside friends',
    );
    const { unread } = await read('contacts on the list Quayside friends', operations);
    expect(unread.length).toBeGreaterThan(0);
  });

  it('is the same question as it is printed, and can be asked', async () => {
    const { asked, printed } = await read('accounts in Sweden with no activity in 60 days');
    const again = await read(printed ?? '');
    expect(again.asked).toEqual(asked);
    const answer = await rep
      .call('post', '/questions/records', { question: asked?.question, limit: 5 })
      .expect(200);
    expect((answer.body as RecordsAnswer).total).toBeGreaterThan(0);
  });

  it('is told what was not understood, where it stands', async () => {
    const text = 'open deals with purple sails';
    const { unread, asked } = await read(text);
    expect(unread.map(({ from, to }) => text.slice(from, to))).toEqual(['purple sails']);
    expect(asked).toBeDefined();
  });

  it('is refused where it is no text, or one of 100 kB and more', async () => {
    await rep.call('post', '/questions/read', { text: 5 }).expect(422);
    const { noQuestion } = await read('x'.repeat(99_999));
    expect(noQuestion?.why).toContain('at most 1000 letters');
    await rep.call('post', '/questions/read', { text: 'x'.repeat(100_001) }).expect(422);
  });

  it('is read by the rules that the organisation set', async () => {
    const { body } = await operations.call('get', '/organisation/1').expect(200);
    const { version } = (body as { record: { version: number } }).record;
    const set = { wordsYear: 'calendar', wordsDate: 'monthFirst' };
    await operations.call('patch', '/organisation/1', set, { 'If-Match': `"${version}"` }).expect(200);
    expect((await read('deals won this year')).printed).toContain('closed on is in this year');
    const { doubtful } = await read('deals won this year');
    expect(doubtful).toEqual([
      {
        from: 10,
        to: 19,
        as: 'this calendar year',
        others: [{ as: 'this fiscal year', rules: { year: 'fiscal' } }],
      },
    ]);
    expect((await read('deals closing 10/12')).printed).toContain('12 Oct 2026');
  });
});

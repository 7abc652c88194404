import {
  ask,
  objectType,
  plainDesign,
  relationsOf,
  builtIn,
  type Actor,
  type AnyRecord,
  type BulkPreview,
  type FiguresAnswer,
  type ObjectKey,
  type Question,
  type RecordsPage,
} from '@zawn/core';
import { Organisation } from './kernel/organisation/organisation';
import { Caller, startServer, type TestServer } from './testing';

let server: TestServer;
let operations: Caller;
const everything = new Map<ObjectKey, AnyRecord[]>();
const OBJECTS = ['lead', 'contact', 'account', 'deal'] as const;
/** Records that hang on those. */
const HANGING = [
  'activity',
  'note',
  'mail',
  'file',
  'membership',
  'dealContact',
  'dealLine',
  'guideTick',
] as const;
/** Parts of activities. */
const PARTS = ['checklistItem', 'activityLink', 'recordingRemark'] as const;

/** Every record that answers, page by page. */
async function everyRecord(caller: Caller, object: ObjectKey): Promise<AnyRecord[]> {
  const rows: AnyRecord[] = [];
  for (let cursor: string | null | undefined; cursor !== null;) {
    const question = ask(object);
    const { body } = await caller
      .call('post', '/questions/records', { question, limit: 1000, ...(cursor ? { cursor } : {}) })
      .expect(200);
    rows.push(...(body as RecordsPage).rows);
    cursor = (body as RecordsPage).next;
  }
  return rows;
}

const mailFrom = (email: string) =>
  [
    `From: ${email}`,
    'To: hello@brackwater.example',
    'Subject: The gauge',
    `Message-ID: <${email}>`,
    'Date: Wed, 18 Nov 2026 10:00:00 +0000',
    '',
    'It reads twice as much.',
  ].join('\r\n');

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  for (const object of OBJECTS) everything.set(object, (await operations.records(ask(object))).rows);
  // The demo begins without files and emails.
  const writers = (everything.get('contact') ?? []).filter(({ email }) => email).slice(0, 60);
  for (const { email } of writers)
    await operations
      .call('post', '/mails/files')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(mailFrom(String(email))))
      .expect(201);
  for (const object of OBJECTS) {
    const [first, ...others] = everything.get(object) ?? [];
    for (const record of [first, others[100], others[200]])
      await operations
        .call('post', `/${objectType(object).path}/${record.id}/files?name=plan.txt`)
        .set('Content-Type', 'application/octet-stream')
        .send(Buffer.from(`A plan for ${object} ${record.id}`))
        .expect(201);
  }
  for (const object of [...HANGING, ...PARTS]) everything.set(object, await everyRecord(operations, object));
});
afterAll(() => server.close());

const ids = (records: readonly AnyRecord[]) => records.map(({ id }) => id).sort((a, b) => a - b);

/** Leads everybody who sells, so that nothing of theirs is hidden. */
const DIRECTOR = 'signe.abernock';

/** One person of each role, and who is out of their reach. */
describe.each(['tamsin.rudd', 'lars.westerholt', 'maren.ollerby', 'conor.wansbeck', DIRECTOR])(
  '%s',
  (email) => {
    let caller: Caller;
    let actor: Actor;
    const mine = new Map<ObjectKey, ReadonlySet<number>>();
    let activities: ReadonlySet<number> = new Set();
    const all = (object: ObjectKey) => everything.get(object) ?? [];
    const isMine = ({ owner }: AnyRecord) =>
      actor.roles[0].name === 'Rep' ? owner === actor.personId : actor.teamPeople.includes(Number(owner));
    /** Whether a record is theirs, hangs on one that is, or is a part of one that does. */
    const isTheirs = (object: ObjectKey, record: AnyRecord): boolean =>
      isMine(record) ||
      ((PARTS as readonly ObjectKey[]).includes(object) && activities.has(Number(record.activity))) ||
      ((HANGING as readonly ObjectKey[]).includes(object) &&
        OBJECTS.some((subject) => mine.get(subject)?.has(Number(record[subject]))));
    const hiddenNames = (object: ObjectKey) =>
      new Set(
        all(object)
          .filter((record) => !isMine(record))
          .map(({ name }) => String(name)),
      );

    beforeAll(async () => {
      caller = await Caller.signIn(server, email);
      actor = (await server.app.get(Organisation).actor(caller.id)) as Actor;
      for (const object of OBJECTS) mine.set(object, new Set(ids(all(object).filter(isMine))));
      activities = new Set(ids(all('activity').filter((each) => isTheirs('activity', each))));
    });

    it.each(OBJECTS)('sees each %s that is theirs, and no other', async (object) => {
      const own = all(object).filter(isMine);
      const rows = await everyRecord(caller, object);
      expect(ids(rows)).toEqual(ids(own));
      expect(own.length < all(object).length).toBe(email !== DIRECTOR);
    });

    it.each(HANGING)(
      'sees each %s that is theirs or hangs on what is theirs, and no other',
      async (object) => {
        const own = all(object).filter((record) => isTheirs(object, record));
        const rows = await everyRecord(caller, object);
        expect(ids(rows)).toEqual(ids(own));
        expect(own.length < all(object).length).toBe(email !== DIRECTOR);
      },
    );

    it.each(PARTS)('sees each %s of an activity that they see, and no other', async (object) => {
      const own = all(object).filter((part) => isTheirs(object, part));
      expect(ids(await everyRecord(caller, object))).toEqual(ids(own));
      expect(all(object).length).toBeGreaterThan(0);
    });

    it.each(OBJECTS)('counts and groups only their own %ss, by whatever they are grouped', async (object) => {
      const own = all(object).filter(isMine);
      const groups =
        object === 'deal' ? ['owner', 'stage', 'account', 'account.country'] : ['owner', 'country', 'tags'];
      const questions = groups
        .filter((field) => object !== 'deal' || field !== 'country')
        .map((field): Question => ({
          ...ask(object),
          groups: [{ field }],
          measures: [{ as: 'count' }, { as: 'share' }],
        }));
      const { body } = await caller.call('post', '/questions/figures', { questions }).expect(200);
      for (const [index, { rows }] of (body as { answers: FiguresAnswer[] }).answers.entries()) {
        const sum = (at: number) => rows.reduce((total, { figures }) => total + (figures[at] ?? 0), 0);
        // With several tags a record counts at each.
        const places = own.reduce((total, record) => {
          const value = record[questions[index].groups?.[0].field ?? ''];
          return total + (Array.isArray(value) ? value.length : 1);
        }, 0);
        expect(sum(0)).toBe(places);
        if (own.length > 0) expect(sum(1)).toBeCloseTo(places / own.length, 6);
      }
    });

    it.each(OBJECTS)(
      'learns nothing of hidden records by the number of those that link to a %s',
      async (object) => {
        for (const { key } of relationsOf(builtIn, object)) {
          const [from, link] = key.split('.') as [ObjectKey, string];
          if (!everything.has(from)) continue;
          const where = { related: key, is: 'atLeast' as const, value: 1 };
          const { rows } = await caller.records(ask(object, where));
          const linked = new Set(
            all(from)
              .filter((record) => isTheirs(from, record))
              .map((record) => record[link]),
          );
          expect(rows.map(({ id }) => id).sort()).toEqual(
            all(object)
              .filter((record) => isMine(record) && linked.has(record.id))
              .map(({ id }) => id)
              .sort(),
          );
        }
      },
    );

    it('reads, sorts and groups by what lies behind a link only where that is theirs', async () => {
      const hidden = new Set(
        all('account')
          .filter((record) => !isMine(record))
          .map(({ id }) => id),
      );
      const question: Question = {
        ...ask('deal'),
        columns: ['account.name', 'account.country', 'account.owner', 'contact.email', 'account.lists'],
        sort: [{ field: 'account.name' }, { field: 'account.country', descending: true }],
      };
      const { rows, names } = await caller.records(question);
      for (const row of rows)
        if (hidden.has(Number(row.account)))
          expect([row['account.name'], row['account.country']]).toEqual([null, null]);
      const seen = Object.keys(names.account ?? {}).map(Number);
      expect(seen.some((id) => hidden.has(id))).toBe(false);
    });

    it.each(OBJECTS)('finds no hidden %s by search, whatever of it is typed', async (object) => {
      const hidden = hiddenNames(object);
      const own = new Set(
        all(object)
          .filter(isMine)
          .map(({ name }) => String(name)),
      );
      const some = [...hidden].filter((name) => !own.has(name)).slice(0, 12);
      for (const name of some) {
        for (const text of [name, name.slice(0, 6), name.replace(/[aeiou]/, '')]) {
          const { body } = await caller.call('get', `/search?q=${encodeURIComponent(text)}`).expect(200);
          const found = (body as { hits: { object: string; name: string }[] }).hits.filter(
            (hit) => hit.object === object,
          );
          expect(found.filter((hit) => hit.name === name)).toEqual([]);
        }
      }
    });

    it.each(OBJECTS)('exports nothing of hidden %ss', async (object) => {
      const answer = await caller.call('post', '/exports', {
        design: plainDesign(object),
        format: 'csv',
        fields: 'all',
      });
      if (actor.roles[0].name === 'Rep') {
        expect(answer.status).toBe(403);
        return;
      }
      const own = new Set(
        all(object)
          .filter(isMine)
          .map(({ name }) => String(name)),
      );
      for (const name of [...hiddenNames(object)].filter((each) => !own.has(each)).slice(0, 40))
        expect(answer.text.includes(`${name},`)).toBe(false);
    });

    it.each(OBJECTS)('neither previews nor does anything to hidden %ss', async (object) => {
      const hidden = all(object)
        .filter((record) => !isMine(record))
        .slice(0, 5);
      if (hidden.length === 0) return;
      const request = { object, selection: { ids: hidden.map(({ id }) => id) }, action: { do: 'delete' } };
      const { body } = await caller.call('post', '/bulk/preview', request).expect(200);
      expect(body as BulkPreview).toMatchObject({ count: 0, examples: [] });
      await caller.call('post', '/bulk', request).expect(409);
      const total = (await operations.records(ask(object), 1)).total;
      expect(total).toBe(all(object).length);
    });

    it('sees in a colleague’s shared view what is their own, and no more', async () => {
      const { body } = await operations
        .call('post', '/views', {
          name: 'Everything',
          object: 'deal',
          sharing: 'everyone',
          design: JSON.stringify(plainDesign('deal')),
        })
        .expect(201);
      const { id } = (body as { value: AnyRecord }).value;
      const { body: read } = await caller.call('get', `/views/${id}`).expect(200);
      const { design } = (read as { record: { design: string } }).record;
      const { question } = JSON.parse(design) as { question: Question };
      const { body: page } = await caller
        .call('post', '/questions/records', { question, limit: 1 })
        .expect(200);
      expect((page as RecordsPage).total).toBe(all('deal').filter(isMine).length);
    });
  },
);

import {
  ask,
  changesFrom,
  isWider,
  objectType,
  operationsOfPart,
  operationsOn,
  permittedObjects,
  plainDesign,
  reaches,
  acts,
  type Act,
  type AnyRecord,
  type FieldRule,
  type ObjectKey,
  type Operation,
  type Question,
  type Reach,
  type ReadyRoleKey,
  type RecordsPage,
  type RoleException,
  type RoleRules,
  type SetupOperation,
  type RecordAnswer,
  type Written,
} from '@zawn/core';
import { Random } from '../demo/random';
import { Caller, routesOf, startServer, type TestServer } from '../testing';

jest.setTimeout(Number(process.env.ZAWN_FUZZ_ROLES ?? 1) * 120_000);

/** The ready roles that are tried in a file of their own, half of the work: those who lead see the most. */
export const leadingRoles: readonly ReadyRoleKey[] = ['manager', 'director', 'operations'];

const SUBJECTS = ['lead', 'contact', 'account', 'deal'] as const;
const HANGING = ['activity', 'note'] as const;
const KINDS = [...SUBJECTS, ...HANGING] as const;
type Kind = (typeof KINDS)[number];

/** Whose a record is, as it lies to the person whose roles are tried. */
const sides = ['own', 'mate', 'below', 'far', 'lent'] as const;
type Side = (typeof sides)[number];

/** A record that is nowhere but here, so that a trace of it in an answer says that it was seen. */
interface Marked {
  object: Kind;
  id: number;
  /** A word that stands in its name, or in what is said. */
  word: string;
  /** Words that stand in one field each. */
  inFields: Record<string, string>;
}

let server: TestServer;
let operations: Caller;
/** Who is given one role after the other. */
export let person: Caller;
let role: AnyRecord;
const marked: Marked[] = [];
const people = {} as Record<Side, number>;
/** Records as they are, by object and id. */
const known = new Map<string, AnyRecord>();
let countries: string[] = [];

const word = (...parts: string[]) => `Quill${parts.join('')}`.replace(/[^A-Za-z]/g, '');

/** The fields that rules are tried on, with a word or figure that stands nowhere else. */
const fieldWords = (object: Kind, side: Side): Record<string, string> => {
  const own = (field: string) => word('x', field, object, side).toLowerCase();
  return {
    lead: { campaign: own('campaign'), email: `${own('email')}@vexmail.example` },
    contact: { city: own('city'), email: `${own('email')}@vexmail.example` },
    account: { street: own('street') },
    deal: { externalId: own('externalId') },
    activity: { description: own('description') },
    note: { title: own('title') },
  }[object];
};

const made = async (caller: Caller, path: string, values: object) =>
  ((await caller.call('post', path, values).expect(201)).body as Written<AnyRecord>).value;

async function mark(object: Kind, side: Side, values: object): Promise<AnyRecord> {
  const own = word(object, side);
  const inFields = fieldWords(object, side);
  const { plural, nameField } = objectType(object);
  const named = object === 'note' ? { body: `${own} said` } : { [nameField]: `${own} ${plural}` };
  const record = await made(operations, `/${objectType(object).path}`, { ...named, ...inFields, ...values });
  marked.push({ object, id: record.id, word: own, inFields });
  return record;
}

beforeAll(async () => {
  // That answers are as described is held by the other tests.
  server = await startServer({ demo: true, isDescribed: false });
  operations = await Caller.signIn(server, 'bram.tideswell');
  const team = async (name: string, parent: number | null) =>
    (await made(operations, '/teams', { name, parent })).id;
  const [home, under, away] = [await team('Home', null), 0, await team('Away', null)];
  const below = await team('Below', home + under);
  const colleague = async (side: Side, of: number) =>
    (
      await made(operations, '/people', {
        name: `Person ${side}`,
        email: `${side}@brackwater.example`,
        role: 'rep',
        team: of,
        active: true,
      })
    ).id;
  people.mate = await colleague('mate', home);
  people.below = await colleague('below', below);
  people.far = await colleague('far', away);
  people.lent = people.far;
  role = await made(operations, '/roles', {
    name: 'Tried',
    basis: 'rep',
    sells: 'always',
    secondStep: false,
    retired: false,
  });
  const { rows } = await operations.records(ask('person', { field: 'name', is: 'is', value: 'Tamsin Rudd' }));
  people.own = rows[0].id;
  await operations
    .against(rows[0].version, 'patch', `/people/${people.own}`, { role: role.key, team: home })
    .expect(200);
  for (const side of sides) {
    const owner = people[side];
    const account = await mark('account', side, { owner, country: side === 'mate' ? 'SE' : 'NO' });
    const contact = await mark('contact', side, { owner, account: account.id });
    await mark('lead', side, { owner, status: side === 'far' ? 'working' : 'untouched' });
    const deal = await mark('deal', side, {
      owner,
      account: account.id,
      contact: contact.id,
      ...dealValues(),
    });
    // What it was before stands in its log.
    for (const externalId of ['meanwhile', deal.externalId]) {
      const { body } = await operations.call('get', `/deals/${deal.id}`).expect(200);
      const { version } = (body as RecordAnswer).record;
      await operations.against(version, 'patch', `/deals/${deal.id}`, { externalId }).expect(200);
    }
    // What hangs on it is somebody’s else, so that it is reached through the deal alone.
    await mark('activity', side, { owner: people.far, kind: 'call', dueOn: '2026-11-25', deal: deal.id });
    await mark('note', side, { deal: deal.id });
    if (side === 'lent')
      for (const [subject, record] of Object.entries({ account, deal }))
        await made(operations, '/shares', {
          [subject]: record.id,
          person: people.own,
          may: 'edit',
          until: '2026-11-19',
        });
  }
  countries = ['SE', 'NO'];
  person = await Caller.signIn(server, 'tamsin.rudd');
  await readAll();
});
afterAll(() => server.close());

function dealValues() {
  const { stages } = operations.session;
  const first = stages[0];
  return {
    pipeline: first.pipeline,
    stage: first.id,
    value: 4_700_000,
    currency: 'GBP',
    closeOn: '2026-12-20',
  };
}

/** The records of a kind that somebody sees, page by page until there are enough, and how many they are told there are. */
async function recordsSeenBy(caller: Caller, object: Kind, enough = Infinity) {
  const rows: AnyRecord[] = [];
  let total = 0;
  for (let cursor: string | null | undefined; cursor !== null && rows.length < enough;) {
    const question = ask(object);
    const { body } = await caller
      .call('post', '/questions/records', { question, limit: 1000, ...(cursor ? { cursor } : {}) })
      .expect(200);
    const page = body as RecordsPage;
    total = page.total;
    rows.push(...page.rows);
    cursor = page.next;
  }
  return { rows, total };
}

/** What there is of every kind, as operations see it. */
async function readAll(): Promise<void> {
  known.clear();
  for (const object of KINDS)
    for (const record of (await recordsSeenBy(operations, object)).rows)
      known.set(`${object} ${record.id}`, record);
}

/** The rules as they are meant, told anew: nothing of how they are asked for is used. */
class Meant {
  constructor(private readonly rules: RoleRules) {}

  may = (act: Act, operation?: SetupOperation) =>
    this.rules.acts.includes(act) &&
    !(operation !== undefined && (this.rules.withheld[act] ?? []).includes(operation));

  allows(object: Kind, operation: Operation, record: AnyRecord): boolean {
    const exception = this.rules.exceptions.find(
      (each) => each.object === object && each.operations.includes(operation) && meets(each, record),
    );
    const reach = exception?.reach ?? this.rules.reach[object]?.[operation] ?? 'none';
    return this.within(reach, object, record) && (operation === 'see' || this.allows(object, 'see', record));
  }

  private within(reach: Reach, object: Kind, record: AnyRecord): boolean {
    if (reach === 'none' || reach === 'all') return reach === 'all';
    if (this.owned(reach, object, record)) return true;
    if (!(HANGING as readonly Kind[]).includes(object)) return false;
    return SUBJECTS.some((subject) => {
      const on = known.get(`${subject} ${String(record[subject])}`);
      return on && this.owned(reach, subject, on) && this.allows(subject, 'see', on);
    });
  }

  private owned(reach: Reach, object: Kind, { id, owner }: AnyRecord): boolean {
    const { own, mate, below } = people;
    const owners = { own: [own], shared: [own], team: [own, mate], below: [own, mate, below] };
    if (owners[reach as keyof typeof owners].includes(Number(owner))) return true;
    const isLent =
      ['account', 'deal'].includes(object) &&
      marked.some((each) => each.object === object && each.id === id && each.word === word(object, 'lent'));
    return isLent && reach !== 'own';
  }

  field(object: Kind, key: string): FieldRule['may'] | 'edit' {
    return this.rules.fields.find((rule) => rule.object === object && rule.field === key)?.may ?? 'edit';
  }
}

/** The conditions that exceptions are tried with. */
function meets({ object, where }: RoleException, record: AnyRecord): boolean {
  const { field, value } = where as unknown as { field: string; value: (string | number)[] };
  const [first, second] = field.split('.');
  const found = second ? known.get(`${first} ${String(record[first])}`)?.[second] : record[first];
  expect(object).toBeDefined();
  return found !== null && found !== undefined && value.includes(found as string | number);
}

/** Rules that hold together and that nobody would think of. */
export function anyRules(random: Random): RoleRules {
  const reach: Record<string, Partial<Record<Operation, Reach>>> = {};
  for (const object of permittedObjects()) {
    const see = random.pick(reaches);
    const row: Partial<Record<Operation, Reach>> = { see };
    for (const operation of operationsOn(object))
      if (operation !== 'see') row[operation] = random.pick(reaches.filter((each) => !isWider(each, see)));
    reach[object] = row;
  }
  const stages = operations.session.stages.map(({ id }) => id);
  const conditions: [Kind, string, () => (string | number)[]][] = [
    ['deal', 'stage', () => [random.pick(stages), stages[0]]],
    ['deal', 'account.country', () => [random.pick(countries)]],
    ['lead', 'status', () => [random.pick(['untouched', 'working'])]],
    ['account', 'country', () => [random.pick(countries)]],
    ['contact', 'account.country', () => [random.pick(countries)]],
    ['activity', 'kind', () => [random.pick(['call', 'meeting', 'task'])]],
  ];
  const exceptions = conditions
    .filter(() => random.chance(0.4))
    .map(([object, field, value]): RoleException => ({
      object,
      operations: operationsOn(object).filter(() => random.chance(0.6)),
      where: { field, is: 'anyOf', value: value() },
      reach: random.pick(reaches),
    }))
    .filter((each) => each.operations.length > 0);
  const fields = KINDS.flatMap((object) =>
    Object.keys(fieldWords(object, 'own'))
      .filter(() => random.chance(0.5))
      .map((field): FieldRule => ({ object, field, may: random.pick(['nothing', 'see']) })),
  );
  const withheld = Object.fromEntries(
    acts
      .map((act) => [act, operationsOfPart(act).filter(() => random.chance(0.2))] as const)
      .filter(([, kept]) => kept.length > 0),
  );
  return { reach, acts: acts.filter(() => random.chance(0.5)), withheld, exceptions, fields };
}

/** Gives the role that is tried other rules, and reads what the person knows of themselves by then. */
export async function give(rules: RoleRules): Promise<void> {
  const { body: now } = await operations.call('get', `/roles/${role.id}`).expect(200);
  const { version } = (now as { record: AnyRecord }).record;
  await operations
    .against(version, 'patch', `/roles/${role.id}`, { rules: JSON.stringify(changesFrom('rep', rules)) })
    .expect(200);
  await person.call('get', '/session').expect(200);
}

/** The versions of what is marked as they are now. */
async function versionsOfMarked(): Promise<Map<Marked, number>> {
  const versions = new Map<Marked, number>();
  for (const object of KINDS) {
    const field = object === 'note' ? 'body' : 'name';
    const { rows } = await operations.records(ask(object, { field, is: 'startsWith', value: 'Quill' }));
    for (const each of marked)
      if (each.object === object) versions.set(each, rows.find(({ id }) => id === each.id)?.version ?? 0);
  }
  return versions;
}

const recordOf = ({ object, id }: Marked) => known.get(`${object} ${id}`) as AnyRecord;
const sorted = (ids: number[]) => [...ids].sort((a, b) => a - b);

/**
 * Everything that is asked of a person with some rules. Two files of tests try roles with it, side by side, each with a
 * company of its own.
 */
export function holds(title: string, rulesAt: () => RoleRules) {
  describe(title, () => {
    let rules: RoleRules;
    let meant: Meant;
    beforeAll(async () => {
      rules = rulesAt();
      meant = new Meant(rules);
      await give(rules);
    });

    const of = (object: Kind) =>
      [...known].filter(([key]) => key.startsWith(`${object} `)).map(([, record]) => record);
    const seen = (object: Kind) => of(object).filter((record) => meant.allows(object, 'see', record));

    it('sees, counts and groups what it says, and nothing else', async () => {
      for (const object of KINDS) {
        const expected = sorted(seen(object).map(({ id }) => id));
        const { rows, total } = await recordsSeenBy(person, object, 3000);
        const found = rows.map(({ id }) => id);
        expect([object, total]).toEqual([object, expected.length]);
        if (total === found.length) expect([object, sorted(found)]).toEqual([object, expected]);
        const byOwner = await person.figures({
          ...ask(object),
          groups: [{ field: 'owner' }],
          measures: [{ as: 'count' }],
        });
        expect(byOwner.reduce((sum, { figures }) => sum + (figures[0] ?? 0), 0)).toBe(expected.length);
      }
    });

    it('reads each record that it sees, and of it the fields that it sees', async () => {
      for (const each of marked) {
        const { status, body } = await person.call('get', `/${objectType(each.object).path}/${each.id}`);
        const isSeen = meant.allows(each.object, 'see', recordOf(each));
        expect([each.word, status]).toEqual([each.word, isSeen ? 200 : 404]);
        if (!isSeen) continue;
        const { record } = body as { record: AnyRecord };
        for (const [field, text] of Object.entries(each.inFields))
          expect([each.word, field, record[field]]).toEqual([
            each.word,
            field,
            meant.field(each.object, field) === 'nothing' ? undefined : text,
          ]);
      }
    });

    it('changes what it may, and is told why not where it may not', async () => {
      const versions = await versionsOfMarked();
      for (const each of marked) {
        const record = recordOf(each);
        const { path } = objectType(each.object);
        let version = versions.get(each) as number;
        const isSeen = meant.allows(each.object, 'see', record);
        const isAllowed = meant.allows(each.object, 'edit', record);
        const other = {
          note: { pinned: version % 2 === 0 },
          activity: { minutes: version },
          deal: { description: `v${version}` },
        };
        const values = other[each.object as 'note'] ?? { externalId: `v${version}` };
        const { status, body } = await person.against(version, 'patch', `/${path}/${each.id}`, values);
        expect([each.word, status]).toEqual([each.word, !isSeen ? 404 : isAllowed ? 200 : 403]);
        if (!isAllowed) continue;
        version = (body as Written<AnyRecord>).value.version;
        // The same value again is no change, and is refused all the same where nobody of theirs may set it.
        for (const [key, text] of Object.entries(each.inFields)) {
          const answer = await person.against(version, 'patch', `/${path}/${each.id}`, { [key]: text });
          const may = meant.field(each.object, key);
          expect([each.word, key, answer.status]).toEqual([each.word, key, may === 'edit' ? 200 : 422]);
        }
      }
    });

    it('deletes what it may, and takes that back', async () => {
      const versions = await versionsOfMarked();
      for (const each of marked) {
        const record = recordOf(each);
        const address = `/${objectType(each.object).path}/${each.id}`;
        const { status, body } = await person.against(versions.get(each) as number, 'delete', address);
        const isSeen = meant.allows(each.object, 'see', record);
        const isAllowed = meant.allows(each.object, 'delete', record);
        expect([each.word, status]).toEqual([each.word, !isSeen ? 404 : isAllowed ? 200 : 403]);
        if (isAllowed)
          await person.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
      }
    });

    it('adds for whom it may', async () => {
      for (const object of KINDS.filter((kind) => kind !== 'note'))
        for (const side of ['own', 'mate', 'below', 'far'] as const) {
          const owner = people[side];
          const values = {
            lead: { name: 'Added', status: 'untouched' },
            contact: { name: 'Added' },
            account: { name: `Added ${side}`, country: 'DE' },
            deal: { name: 'Added', ...dealValues() },
            activity: { name: 'Added', kind: 'task', dueOn: '2026-11-24' },
            note: {},
          }[object];
          const { status, body } = await person.call('post', `/${objectType(object).path}`, {
            ...values,
            owner,
          });
          const record = { id: -1, owner, ...values } as unknown as AnyRecord;
          const isAllowed = meant.allows(object, 'add', record);
          expect([object, side, status]).toEqual([object, side, isAllowed ? 201 : 403]);
          if (isAllowed)
            await person.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
        }
    });

    it('takes out all of what it sees or nothing', async () => {
      for (const object of SUBJECTS) {
        const answer = await person.call('post', '/exports', {
          design: plainDesign(object),
          format: 'csv',
          fields: 'all',
        });
        const all = seen(object);
        const may = all.filter((record) => meant.allows(object, 'export', record));
        const isNone =
          (rules.reach[object]?.export ?? 'none') === 'none' &&
          !rules.exceptions.some(
            (each) => each.object === object && each.operations.includes('export') && each.reach !== 'none',
          );
        const isSeenNone = (rules.reach[object]?.see ?? 'none') === 'none' && all.length === 0;
        if (isSeenNone) expect([200, 403]).toContain(answer.status);
        else expect([object, answer.status]).toEqual([object, isNone || may.length < all.length ? 403 : 200]);
        for (const each of marked.filter((one) => one.object === object)) {
          const isIn = answer.status === 200 && meant.allows(object, 'see', recordOf(each));
          expect([each.word, answer.text.includes(each.word)]).toEqual([each.word, isIn]);
        }
      }
    });

    it('does beside that what it may', async () => {
      const tried: [Act, () => ReturnType<Caller['call']>, number, SetupOperation?][] = [
        ['keepBackups', () => person.call('get', '/backups'), 200],
        ['setUpFields', () => person.call('get', '/tag-uses'), 200],
        ['setUpFields', () => person.call('post', '/tags', { name: `t${Math.random()}` }), 201, 'add'],
        ['managePeople', () => person.call('get', '/people/access'), 200],
        ['managePeople', () => person.call('get', `/people/${people.mate}/reach`), 200],
        ['managePeople', () => person.call('post', '/teams', { name: 'Newly made' }), 201, 'add'],
        ['setUpAssignment', () => person.call('get', '/assignment/default'), 200],
        [
          'setUpAssignment',
          () => person.call('patch', '/assignment/default', { person: people.own }),
          200,
          'edit',
        ],
        [
          'mergeRecords',
          () =>
            person.call('post', '/duplicates/verdicts', {
              object: 'lead',
              ids: [999998, 999999],
              verdict: 'different',
            }),
          404,
        ],
        ['setUpCapture', () => person.call('get', '/mail-arrivals'), 200],
        ['setUpMoney', () => person.call('post', '/rates/read', { text: 'EUR 2026-01-01 0.9' }), 200],
        [
          'setUpPipelines',
          () => person.call('post', '/pipelines', { name: 'Another', position: 7 }),
          201,
          'add',
        ],
        [
          'setTargets',
          () =>
            person.call('post', '/targets', {
              owner: people.own,
              startsOn: '2031-01-01',
              amount: 5,
              currency: 'GBP',
            }),
          201,
          'add',
        ],
      ];
      for (const [act, send, success, operation] of tried) {
        const { status, body } = await send();
        expect([act, status]).toEqual([act, meant.may(act, operation) ? success : 403]);
        const { unit } = body as Partial<Written<unknown>>;
        if (unit) {
          const undone = await person.call('post', `/units/${unit}/undo`);
          expect([act, undone.status, undone.text]).toEqual([act, 200, undone.text]);
        }
      }
      for (const each of marked.filter(({ object }) => object === 'deal')) {
        const { record } = (await operations.call('get', `/deals/${each.id}`)).body as { record: AnyRecord };
        const { status, body } = await person.against(record.version, 'post', `/deals/${each.id}/win`, {});
        const isSeen = meant.allows('deal', 'see', recordOf(each));
        const isAllowed = meant.may('closeDeals') && meant.allows('deal', 'edit', recordOf(each));
        expect([each.word, status]).toEqual([each.word, !isSeen ? 404 : isAllowed ? 200 : 403]);
        if (isAllowed)
          await person.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
      }
    });

    it('shows no trace of anything else, whatever is asked', async () => {
      const words = new Map<string, boolean>();
      for (const each of marked) {
        const isSeen = meant.allows(each.object, 'see', recordOf(each));
        words.set(each.word, isSeen);
        for (const [field, text] of Object.entries(each.inFields))
          words.set(text, isSeen && meant.field(each.object, field) !== 'nothing');
      }
      const unseen = [...words].flatMap(([text, isSeen]) => (isSeen ? [] : [text.toLowerCase()]));
      const look = (what: string, { text, body }: { text?: string; body: unknown }) => {
        // What was typed is not told by being repeated. A sound says what its bytes spell.
        const said = (text ?? (Buffer.isBuffer(body) ? body.toString('latin1') : '')).toLowerCase();
        const traces = unseen.filter((each) => said.includes(each));
        expect([what, traces]).toEqual([what, []]);
      };
      for (const { method, path } of routesOf(server)) {
        if (method !== 'get' || !path.startsWith('/api/v1') || /\/(events|openapi.json)$/.test(path))
          continue;
        const address = path.replace('/api/v1', '');
        for (const at of addressesOf(address)) look(`get ${at}`, await person.call('get', at));
      }
      for (const question of questionsAboutAll())
        look(
          JSON.stringify(question).slice(0, 200),
          await person.call('post', '/questions/records', { question, limit: 60 }),
        );
      for (const object of SUBJECTS) {
        const selection = { ids: marked.filter((each) => each.object === object).map(({ id }) => id) };
        const action = { do: 'change', values: { externalId: 'bulk' } };
        look('bulk', await person.call('post', '/bulk/preview', { object, selection, action }));
      }
      // Typed in full, what is not seen is not found; what is, is.
      for (const each of marked.filter(({ word: of }) => !of.endsWith('mate'))) {
        // What stands in fields lies no other way for one side than for another, but that it is seen or not.
        const isNear = each.word.endsWith('own') || each.word.endsWith('far');
        const inFields = isNear ? Object.values(each.inFields).map((text) => text.split('@')[0]) : [];
        const typed = [each.word, ...inFields];
        for (const [index, text] of typed.entries()) {
          const { body } = await person.call('get', `/search?q=${text}`).expect(200);
          const hits = (body as { hits: unknown[] }).hits;
          const field = index === 0 ? undefined : Object.keys(each.inFields)[index - 1];
          const isFound =
            meant.allows(each.object, 'see', recordOf(each)) &&
            (!field || meant.field(each.object, field) !== 'nothing');
          if (!isFound) expect([text, hits]).toEqual([text, []]);
          else if (index === 0 && each.object !== 'note')
            expect([text, hits.length > 0]).toEqual([text, true]);
        }
      }
    });

    it('learns nothing of a hidden field by asking about it', async () => {
      for (const { object, field, may } of rules.fields.filter((rule) => rule.may === 'nothing')) {
        const text = fieldWords(object as Kind, 'own')[field];
        const where = { field, is: 'is' as const, value: text };
        const { body } = await person
          .call('post', '/questions/records', { question: ask(object, where), limit: 5 })
          .expect(200);
        const page = body as RecordsPage;
        // Of an object that is not seen at all there is nothing to ask about, by whatever field.
        const isSeen =
          (rules.reach[object]?.see ?? 'none') !== 'none' ||
          rules.exceptions.some((each) => each.object === object && each.operations.includes('see'));
        if (!isSeen) {
          expect([object, page.total]).toEqual([object, 0]);
          continue;
        }
        expect([field, page.leftOut.map(({ part }) => part)]).toEqual([field, [field]]);
        expect(page.total).toBe(seen(object as Kind).length);
        const { path } = objectType(object);
        const answer = await person.call('get', `/${path}?${field}=${encodeURIComponent(text)}`);
        expect([path, answer.status]).toEqual([path, 422]);
        const action = { do: 'delete' };
        const bulk = { object, selection: { question: ask(object, where) }, action };
        expect((await person.call('post', '/bulk/preview', bulk)).status).toBe(422);
        expect(may).toBe('nothing');
      }
    });
  });
}

/** What is marked of a kind, but for what lies nearest to the person: that is seen the likeliest. */
const idsFartherOff = (object: Kind) =>
  marked.filter((each) => each.object === object && !/(own|mate)$/.test(each.word)).map(({ id }) => id);

/** The addresses of a route that lead to what is marked. */
function addressesOf(path: string): string[] {
  if (!path.includes(':'))
    return path === '/search'
      ? ['/search?q=Quill']
      : path === '/duplicates'
        ? SUBJECTS.slice(0, 3).map((object) => `/duplicates?object=${object}`)
        : [path];
  const filled = path.replace(':person', String(people.own)).replace(':target', 'deal');
  if (filled.includes(':objects'))
    return KINDS.flatMap((object) => {
      const at = filled.replace(':objects', objectType(object).path);
      return at.includes(':id')
        ? idsFartherOff(object).map((id) => at.replace(':id', String(id)))
        : [`${at}?limit=60&sort=-id`];
    });
  const kind = KINDS.find((object) => filled.startsWith(`/${objectType(object).path}/`));
  const ids = kind ? idsFartherOff(kind) : [1, 2, people.mate];
  return ids.map((id) => filled.replace(/:(id|index|session|secret)/g, String(id)));
}

/** Questions that go by every way from one object to another. */
function questionsAboutAll(): Question[] {
  const paths: Record<string, string[]> = {
    deal: [
      'account.name',
      'account.street',
      'contact.name',
      'contact.email',
      'contact.city',
      'externalId',
      'account.country',
    ],
    contact: ['account.name', 'account.street', 'email', 'city'],
    activity: ['deal.name', 'deal.externalId', 'deal.account.name', 'description', 'deal.account.street'],
    note: ['deal.name', 'title', 'deal.contact.email'],
    loggedChange: ['deal.name', 'lead.name', 'old', 'new', 'field', 'contact.email'],
    share: ['deal.name', 'account.name', 'account.street'],
    lead: ['campaign', 'email'],
    account: ['street', 'name'],
  };
  return Object.entries(paths).flatMap(([object, columns]): Question[] => [
    { ...ask(object as ObjectKey), columns, sort: [{ field: 'id', descending: true }] },
    ...columns.slice(1, 2).map((field): Question => ({
      ...ask(object as ObjectKey),
      columns,
      sort: [{ field, descending: true }],
    })),
  ]);
}

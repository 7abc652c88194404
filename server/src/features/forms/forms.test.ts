import request, { type Response } from 'supertest';
import {
  ask,
  newForm,
  type AnyRecord,
  type FormDesign,
  type NoticesPage,
  type SubmissionsPage,
  type TimelinePage,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';
import { PageKeys } from './page-keys';

let server: TestServer;
let operations: Caller;
let rep: Caller;
let form: AnyRecord;

const design: FormDesign = {
  ...newForm,
  heading: 'Ask for a survey',
  fields: [
    { key: 'name', required: true },
    { key: 'email', required: true },
    { key: 'phone' },
    { key: 'country' },
    { key: 'budget' },
    { key: 'timeFrame', label: 'When?' },
    { key: 'description' },
  ],
  sets: { source: 'website', tags: ['survey'] },
};

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  const values = {
    name: 'Survey',
    slug: 'ask-for-a-survey',
    design: JSON.stringify(design),
    to: 'person',
    person: rep.id,
  };
  const { body } = await operations.call('post', '/forms', { ...values, active: true }).expect(201);
  form = (body as Written<AnyRecord>).value;
});
afterAll(() => server.close());

const visitor = () => request(server.app.getHttpServer());
const HOUR_MS = 3_600_000;

/** A key for the form's page as if it had been opened a while ago. */
const keyFrom = (msAgo = 60_000) => server.app.get(PageKeys).make('ask-for-a-survey', Date.now() - msAgo);

const send = async (
  typed: Record<string, string | string[]>,
  { key = '', slug = 'ask-for-a-survey', origin = '' } = {},
): Promise<Response> =>
  visitor()
    .post(`/f/${slug}`)
    .type('form')
    .send({ consent: 'yes', 'page-key': key || (await keyFrom()), 'page-origin': origin, ...typed });

const person = (name: string, more: Record<string, string> = {}) => ({
  'field-name': name,
  'field-email': `${name.toLowerCase().replaceAll(' ', '.')}@eddystrand.example`,
  ...more,
});

const leadCalled = async (name: string) =>
  (await operations.records(ask('lead', { field: 'name', is: 'is', value: name }))).rows[0] as
    AnyRecord | undefined;

const submissions = async () => {
  const { body } = await operations.call('get', `/forms/${form.id}/submissions`).expect(200);
  return (body as SubmissionsPage).rows;
};

describe('a published form', () => {
  it('is a page of its own that runs nothing but its own script and may stand in other websites', async () => {
    const { text, headers } = await visitor().get('/f/ask-for-a-survey').expect(200);
    expect(text).toContain('<h1>Ask for a survey</h1>');
    expect(text).toContain('name="field-email"');
    expect(headers['content-security-policy']).toContain("default-src 'none'");
    expect(headers['content-security-policy']).toContain('frame-ancestors *');
    expect(headers['x-frame-options']).toBeUndefined();
    for (const file of ['form.css', 'form.js', 'embed.js', 'public-sans.woff2'])
      await visitor().get(`/f/${file}`).expect(200);
  });

  it('becomes a lead of whom it goes to, with its source, tags and campaign, and its owner hears of it', async () => {
    const { text } = await visitor()
      .get(
        '/f/ask-for-a-survey?utm_campaign=spring&utm_source=letter&page=https%3A%2F%2Fbrackwater.example%2Fx',
      )
      .set('Referer', 'https://search.example/?q=gauge')
      .expect(200);
    const origin = /name="page-origin" value="([^"]*)"/.exec(text)?.[1].replaceAll('&quot;', '"') ?? '';
    const answer = await send(
      person('Isla Wendmoor', {
        'field-phone': '01632 960 412',
        'field-country': 'GB',
        'field-budget': '12,500',
        'field-timeFrame': 'quarter',
        'field-description': 'Two gauges.\nBy spring.',
      }),
      { origin },
    );
    expect(answer.status).toBe(200);
    expect(answer.text).toContain('Thank you');
    expect(await leadCalled('Isla Wendmoor')).toMatchObject({
      email: 'isla.wendmoor@eddystrand.example',
      phone: '+441632960412',
      country: 'GB',
      budget: 1_250_000,
      currency: 'GBP',
      timeFrame: 'quarter',
      source: 'website',
      campaign: 'spring',
      tags: ['survey'],
      status: 'untouched',
      owner: rep.id,
      createdBy: null,
    });
    const { body } = await rep.call('get', '/notices').expect(200);
    expect((body as NoticesPage).rows[0]).toMatchObject({
      kind: 'leadArrived',
      text: expect.stringContaining('Isla Wendmoor, +441632960412') as string,
    });
    const [latest] = await submissions();
    expect(latest).toMatchObject({
      state: 'taken',
      consent: design.consent?.text,
      typed: { name: 'Isla Wendmoor', budget: '12,500' },
      origin: {
        page: 'https://brackwater.example/x',
        referrer: 'https://search.example/?q=gauge',
        campaign: { utm_campaign: 'spring', utm_source: 'letter' },
      },
    });
  });

  it('stands on the lead’s timeline with what was agreed to', async () => {
    const lead = await leadCalled('Isla Wendmoor');
    const { body } = await rep.call('get', `/leads/${lead?.id}/timeline`).expect(200);
    expect((body as TimelinePage).rows[0]).toMatchObject({
      kind: 'submission',
      form: 'Survey',
      submission: { consent: design.consent?.text },
    });
  });

  it('says whom it may be of those the owner can see, and nobody else', async () => {
    const { rows } = await operations.records(ask('contact', { field: 'email', is: 'isNotEmpty' }));
    const hers = rows.find(({ owner }) => owner === rep.id) as AnyRecord;
    const others = rows.find(({ owner }) => owner !== rep.id) as AnyRecord;
    await send({ 'field-name': 'Known Already', 'field-email': String(hers.email) });
    await send({ 'field-name': 'Unknown To Her', 'field-email': String(others.email) });
    const { body } = await rep.call('get', '/notices').expect(200);
    const [second, first] = (body as NoticesPage).rows.map(({ text }) => text);
    expect(first).toContain(`May be on file: contact ${String(hers.name)} (same email)`);
    expect(second).toContain('Unknown To Her');
    expect(second).not.toContain(String(others.name));
  });
});

describe('what cannot be a lead', () => {
  it('goes back to the visitor with what is wrong, field by field, and nothing they typed is lost', async () => {
    const answer = await send({
      'field-email': 'not an email',
      'field-description': '<script>alert(1)</script>',
      consent: [],
    });
    expect(answer.status).toBe(422);
    expect(answer.text).toContain('Name is needed');
    expect(answer.text).toContain('Please agree to this');
    expect(answer.text).toContain('&lt;script&gt;alert(1)&lt;/script&gt;');
    expect(answer.text).not.toContain('<script>alert');
    const wrong = await send({ 'field-name': 'Wrong Phone', 'field-email': 'nowhere', 'field-phone': '12' });
    expect(wrong.status).toBe(422);
    expect(wrong.text).toContain('id="field-email-fault"');
    expect(wrong.text).toContain('id="field-phone-fault"');
    expect(await leadCalled('Wrong Phone')).toBeUndefined();
  });

  it.each([
    ['a field that no person sees', { 'form-url': 'http://spam.example' }, 60_000],
    ['faster than a person types', {}, 300],
  ])('is held back and thanked for all the same: %s', async (why, more, msAgo) => {
    const name = `Held ${msAgo}`;
    const answer = await send({ ...person(name), ...more }, { key: await keyFrom(msAgo) });
    expect(answer.text).toContain('Thank you');
    expect(await leadCalled(name)).toBeUndefined();
    const [held] = await submissions();
    expect(held).toMatchObject({ state: 'held', lead: null });
    expect(held.why).toContain(why);
    await operations.call('post', `/submissions/${held.id}/take`).expect(201);
    expect(await leadCalled(name)).toMatchObject({ source: 'website', owner: rep.id });
    await operations.call('post', `/submissions/${held.id}/take`).expect(409);
  });

  it('counts once when it is sent again from the same page', async () => {
    const key = await keyFrom();
    await send(person('Sent Twice'), { key });
    expect((await send(person('Sent Twice'), { key })).text).toContain('Thank you');
    const { total } = await operations.records(ask('lead', { field: 'name', is: 'is', value: 'Sent Twice' }));
    expect(total).toBe(1);
  });

  it('is asked for again when its page is a day old, made for another form, or made up', async () => {
    const other = await server.app.get(PageKeys).make('another-form', Date.now() - 60_000);
    for (const key of [await keyFrom(25 * HOUR_MS), other, 'a.b.c', 'x']) {
      const answer = await send(person('Old Page'), { key });
      expect([answer.status, answer.text.includes('send it once more')]).toEqual([422, true]);
      expect(answer.text).toContain('value="Old Page"');
    }
    expect(await leadCalled('Old Page')).toBeUndefined();
  });

  it('is refused when it is too large, with a page and not with an error', async () => {
    const { status, text } = await send(person('Huge', { 'field-description': 'x'.repeat(70_000) }));
    expect([status, text.includes('too large')]).toEqual([413, true]);
    expect(text).toContain('<h1>Not sent</h1>');
  });

  it('is nothing under an address without a form', async () => {
    expect((await visitor().get('/f/nothing-here').expect(404)).text).toContain('There is no form here');
    expect((await send(person('Nobody'), { slug: 'nothing-here' })).status).toBe(404);
  });

  it('is closed while the form is paused, and nothing is taken', async () => {
    const current = (await operations.call('get', `/forms/${form.id}`)).body as { record: AnyRecord };
    await operations
      .against(current.record.version, 'patch', `/forms/${form.id}`, { active: false })
      .expect(200);
    expect((await visitor().get('/f/ask-for-a-survey')).text).toContain('closed at the moment');
    expect((await send(person('Too Late'))).text).toContain('closed at the moment');
    expect(await leadCalled('Too Late')).toBeUndefined();
  });
});

describe('setting a form up', () => {
  const make = (values: object) =>
    operations.call('post', '/forms', {
      name: 'Another',
      slug: 'another',
      design: JSON.stringify(design),
      to: 'rules',
      active: true,
      ...values,
    });

  it.each([
    ['an address that is taken', { slug: 'ask-for-a-survey' }, 'is taken by “Survey”'],
    ['an address with spaces', { slug: 'Ask us' }, 'small letters and digits'],
    ['nobody it goes to', { to: 'person' }, 'Who gets the leads is missing'],
    ['a design that is no JSON', { design: '{' }, 'must be JSON'],
    [
      'no name asked for',
      { design: JSON.stringify({ ...design, fields: [{ key: 'email' }] }) },
      'has to ask for the name',
    ],
    [
      'what visitors have no business with',
      { design: JSON.stringify({ ...design, fields: [{ key: 'name', required: true }, { key: 'owner' }] }) },
      'cannot ask for “owner”',
    ],
    [
      'a source there is not',
      { design: JSON.stringify({ ...design, sets: { source: 'moon' } }) },
      'no source “moon”',
    ],
  ])('is refused for %s', async (_, values, message) => {
    const { body } = await make(values).expect(422);
    expect((body as { detail: string }).detail).toContain(message);
  });

  it('is operations’ alone, and so is what forms brought', async () => {
    await rep
      .call('post', '/forms', { name: 'Mine', slug: 'mine', design: '{}', to: 'rules', active: true })
      .expect(403);
    await rep.call('get', `/forms/${form.id}/submissions`).expect(403);
    await rep.call('post', '/submissions/1/take').expect(403);
  });
});

describe('sending without end', () => {
  it('is stopped for a minute', async () => {
    const statuses: number[] = [];
    for (let count = 0; count < 31; count += 1) statuses.push((await send({}, { slug: 'flooded' })).status);
    expect(statuses[0]).toBe(404);
    expect(statuses.at(-1)).toBe(429);
  });
});

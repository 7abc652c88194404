import { createTransport, type SendMailOptions, type SentMessageInfo } from 'nodemailer';
import {
  ask,
  type AnyRecord,
  type Attachment,
  type MailArrival,
  type MailArrivalsPage,
  type NoticesPage,
  type TimelinePage,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';
import { MailStandIn } from './mail-stand-in';

let server: TestServer;
let operations: Caller;
let rep: Caller;

const HELLO = 'hello@brackwater.example';

beforeAll(async () => {
  server = await startServer({ demo: true, mail: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const send = (mail: SendMailOptions): Promise<SentMessageInfo> => {
  const { port } = server.app.get(MailStandIn);
  const transport = createTransport({ host: '127.0.0.1', port, ignoreTLS: true });
  return transport.sendMail({ to: HELLO, ...mail }).finally(() => transport.close());
};

const arrivals = async () => {
  const { body } = await operations.call('get', '/mail-arrivals').expect(200);
  return (body as MailArrivalsPage).rows;
};
const leadOf = async (email: string) => {
  const { rows } = await operations.records(ask('lead', { field: 'email', is: 'is', value: email }));
  return rows as (AnyRecord | undefined)[];
};
const timeline = async (path: string) => {
  const { body } = await operations.call('get', `${path}/timeline`).expect(200);
  return (body as TimelinePage).rows;
};

describe('an email from somebody new', () => {
  it('becomes a lead with what its head and signature say, the message and its files on the timeline', async () => {
    await send({
      from: '"Everdene, Moss" <moss.everdene@pellgrove-water.example>',
      subject: 'Gauge for the upper weir',
      text: 'Could somebody call me about a gauge?\n\n-- \nMoss Everdene\nHead of operations\n01632 960 555',
      attachments: [{ filename: '../../weir plan.txt', content: 'plan' }],
      messageId: '<first@pellgrove-water.example>',
    });
    const [lead] = await leadOf('moss.everdene@pellgrove-water.example');
    expect(lead).toMatchObject({
      name: 'Moss Everdene',
      organisation: 'Pellgrove Water',
      web: 'pellgrove-water.example',
      phone: '+441632960555',
      role: 'Head of operations',
      interest: 'Gauge for the upper weir',
      source: 'website',
      status: 'untouched',
    });
    const [arrived] = await arrivals();
    expect(arrived).toMatchObject({ outcome: 'lead', lead: lead?.id, address: HELLO, why: null });
    const [entry] = await timeline(`/leads/${lead?.id}`);
    if (entry.kind !== 'mail') throw new Error(`a ${entry.kind} stands on top`);
    expect(entry.record).toMatchObject({ subject: 'Gauge for the upper weir', direction: 'in' });
    const [file] = JSON.parse(String(entry.record.attachments)) as Attachment[];
    expect(file).toMatchObject({ name: 'weir plan.txt', size: 4 });
    const fetched = await operations.call('get', `/mails/${entry.record.id}/files/0`).expect(200);
    expect(fetched.headers['content-disposition']).toContain('attachment');
    expect(fetched.headers['content-type']).toBe('application/octet-stream');
    expect((fetched.body as Buffer).toString()).toBe('plan');
  });

  it('tells the owner whose turn it was', async () => {
    const [lead] = await leadOf('moss.everdene@pellgrove-water.example');
    const owner = operations.session.people.find(({ id }) => id === lead?.owner);
    const caller = await Caller.signIn(server, owner?.email.split('@')[0] ?? '');
    const { body } = await caller.call('get', '/notices').expect(200);
    expect((body as NoticesPage).rows[0]).toMatchObject({
      kind: 'leadArrived',
      text: expect.stringContaining('New lead: Moss Everdene') as string,
    });
  });

  it('has no organisation when it comes from a public mail provider', async () => {
    await send({ from: 'Juno Larkmere <juno@webmail.example>', subject: 'Hello', text: 'Hello' });
    const [lead] = await leadOf('juno@webmail.example');
    expect(lead).toMatchObject({ name: 'Juno Larkmere', organisation: null, web: null });
  });

  it('is read from HTML without anything that runs or loads', async () => {
    await send({
      from: 'Wren Ashdown <wren@ashdown-vines.example>',
      subject: 'Frost',
      html: '<style>p{color:red}</style><p>Frost &amp; wind</p><script>alert(1)</script><img src="http://x.example/t.gif" onerror="alert(2)"><div>in May</div>',
    });
    const [lead] = await leadOf('wren@ashdown-vines.example');
    const [entry] = await timeline(`/leads/${lead?.id}`);
    expect(entry.kind === 'mail' && entry.record.body).toBe('Frost & wind\nin May');
  });

  it('that may not be from who it says is taken, and says so', async () => {
    await send({
      from: 'Ilse Bank <ilse@bankmoor.example>',
      envelope: { from: 'someone@elsewhere.example', to: HELLO },
      subject: 'Trust me',
      text: 'Now.',
    });
    expect((await arrivals())[0].why).toContain('by way of someone@elsewhere.example');
  });
});

describe('what a signature says of somebody known', () => {
  it('is offered once, taken over or left, and never written by itself', async () => {
    const { rows } = await rep.records(ask('contact', { field: 'email', is: 'isNotEmpty' }));
    const contact = rows.findLast(({ owner }) => owner === rep.id) as AnyRecord;
    const name = String(contact.name);
    const from = `${name} <${String(contact.email)}>`;
    const text = `When can you come?\n\n--\n${name}\nDock superintendent\n01632 960 909`;
    await send({ from, subject: 'A visit', text });
    await send({ from, subject: 'A visit, again', text });
    const offered = async () =>
      (await rep.records(ask('contactSuggestion', { field: 'contact', is: 'anyOf', value: [contact.id] })))
        .rows;
    expect((await offered()).map(({ field, value, state }) => [field, value, state])).toEqual([
      ['phone', '+441632960909', 'open'],
      ['role', 'Dock superintendent', 'open'],
    ]);
    const shown = async () =>
      ((await rep.call('get', `/contacts/${contact.id}`)).body as { record: AnyRecord }).record;
    expect(await shown()).toMatchObject({ phone: contact.phone, role: contact.role });
    const [phone, role] = await offered();
    await rep.call('post', `/contact-suggestions/${phone.id}/take`).expect(200);
    await rep.call('post', `/contact-suggestions/${role.id}/leave`).expect(200);
    await rep.call('post', `/contact-suggestions/${role.id}/take`).expect(409);
    expect(await shown()).toMatchObject({ phone: '+441632960909', role: contact.role });
    await send({ from, subject: 'And again', text });
    expect(await offered()).toHaveLength(2);
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    await stranger.call('post', `/contact-suggestions/${phone.id}/take`).expect(404);
  });

  it('is not believed of an email that may be from someone else', async () => {
    const { rows } = await rep.records(ask('contact', { field: 'email', is: 'isNotEmpty' }));
    const contact = rows.find(({ owner }) => owner === rep.id) as AnyRecord;
    await send({
      from: `${String(contact.name)} <${String(contact.email)}>`,
      envelope: { from: 'someone@elsewhere.example', to: HELLO },
      subject: 'My new number',
      text: `Call me\n\n--\n${String(contact.name)}\n01632 960 666`,
    });
    const { total } = await rep.records(
      ask('contactSuggestion', { field: 'contact', is: 'anyOf', value: [contact.id] }),
    );
    expect(total).toBe(0);
  });
});

describe('an email from somebody known', () => {
  it('goes on the contact’s story and their account’s, and whose they are hears of it', async () => {
    const { rows } = await rep.records(
      ask('contact', { field: 'email', is: 'isNotEmpty' }, { field: 'account', is: 'isNotEmpty' }),
    );
    const contact = rows.find(({ owner }) => owner === rep.id) as AnyRecord;
    await send({ from: String(contact.email), subject: 'Yes, let us', text: 'When?' });
    expect((await arrivals())[0]).toMatchObject({ outcome: 'timeline', lead: null });
    for (const path of [`/contacts/${contact.id}`, `/accounts/${Number(contact.account)}`])
      expect((await timeline(path))[0]).toMatchObject({ kind: 'mail', record: { subject: 'Yes, let us' } });
    const { body } = await rep.call('get', '/notices').expect(200);
    expect((body as NoticesPage).rows[0]).toMatchObject({
      kind: 'mailArrived',
      text: `${String(contact.name)} has written: Yes, let us`,
    });
    const { body: found } = await rep.call('get', '/search?q=yes%20let%20us').expect(200);
    expect(JSON.stringify(found)).toContain('"kind":"mail"');
  });

  it('makes no second lead, nor does an answer from another address in the same thread', async () => {
    const from = 'moss.everdene@pellgrove-water.example';
    await send({ from, subject: 'Also', text: 'Also the lower weir.' });
    await send({
      from: 'Moss at home <moss@freemail.example>',
      subject: 'Re: Gauge for the upper weir',
      text: 'From home.',
      inReplyTo: '<first@pellgrove-water.example>',
      references: '<first@pellgrove-water.example>',
    });
    const all = await leadOf(from);
    expect([all.length, (await leadOf('moss@freemail.example')).length]).toEqual([1, 0]);
    const mails = (await timeline(`/leads/${all[0]?.id}`)).filter(({ kind }) => kind === 'mail');
    expect(mails).toHaveLength(3);
  });

  it('comes along when the lead is converted', async () => {
    const [lead] = await leadOf('moss.everdene@pellgrove-water.example');
    const { body } = await operations
      .against(Number(lead?.version), 'post', `/leads/${lead?.id}/conversion`, {
        contact: { create: { name: 'Moss Everdene', owner: lead?.owner, email: lead?.email } },
        account: null,
        deal: null,
      })
      .expect(201);
    const { contact } = (body as { value: { contact: number } }).value;
    const mails = (await timeline(`/contacts/${contact}`)).filter(({ kind }) => kind === 'mail');
    expect(mails).toHaveLength(3);
  });
});

describe('what is no lead', () => {
  it.each([
    ['automatic', { headers: { 'Auto-Submitted': 'auto-replied' } }],
    ['list', { headers: { 'List-Id': '<pilots.harbours.example>' } }],
    ['list', { headers: { Precedence: 'bulk' } }],
    ['bounce', { from: 'MAILER-DAEMON@mail.example' }],
    ['bounce', { headers: { 'X-Failed-Recipients': 'x@y.example' } }],
    ['loop', { from: 'tenders@brackwater.example' }],
    ['loop', { headers: { 'X-Zawn': 'notice' } }],
    ['colleague', { from: 'tamsin.rudd@brackwater.example' }],
  ])('is set aside and said why: %s', async (outcome, mail) => {
    const subject = `Set aside ${JSON.stringify(mail)}`;
    await send({ from: 'Nobody New <new@nobody-new.example>', subject, text: 'x', ...mail });
    const [arrived] = await arrivals();
    expect(arrived).toMatchObject({ subject, outcome, lead: null, mail: null });
    expect(arrived.why).not.toBeNull();
    expect(await leadOf('new@nobody-new.example')).toEqual([]);
  });

  it('is the same message twice', async () => {
    const mail = { from: 'Twice Told <twice@told.example>', messageId: '<twice@told.example>', text: 'x' };
    await Promise.all([send(mail), send(mail)]);
    await send(mail);
    const [lead, ...more] = await leadOf('twice@told.example');
    expect(more).toEqual([]);
    expect((await timeline(`/leads/${lead?.id}`)).filter(({ kind }) => kind === 'mail')).toHaveLength(1);
  });

  it('is refused for an address nobody here has', async () => {
    await expect(send({ from: 'a@b.example', to: 'nobody@brackwater.example', text: 'x' })).rejects.toThrow(
      '550',
    );
  });

  it('is refused beyond 25 MB', async () => {
    const attachments = [{ filename: 'huge.bin', content: Buffer.alloc(20_000_000) }];
    await expect(send({ from: 'huge@huge.example', text: 'x', attachments })).rejects.toThrow('552');
    expect(await leadOf('huge@huge.example')).toEqual([]);
  });
});

describe('a message dropped in as a file', () => {
  const drop = (text: string) =>
    operations.call('post', '/mails/files', undefined, { 'Content-Type': 'message/rfc822' }).send(text);

  it('is taken in like any other, however broken its parts are', async () => {
    const raw = [
      'From: Odd One <odd@odd-one.example>',
      'Subject: =?utf-8?Q?Gr=C3=BC=C3?= broken',
      'Content-Type: multipart/mixed; boundary="x"',
      '',
      '--x',
      'Content-Type: text/plain; charset=nonsense',
      'Content-Transfer-Encoding: base64',
      '',
      '!!!not base64',
      '--x',
    ].join('\r\n');
    const { body } = await drop(raw).expect(201);
    expect(body as MailArrival).toMatchObject({ outcome: 'lead', address: null });
    const again = (await drop(raw).expect(201)).body as MailArrival;
    expect(again.id).toBe((body as MailArrival).id);
    const original = await operations.call('get', `/mail-arrivals/${again.id}/file`).expect(200);
    expect((original.body as Buffer).toString()).toBe(raw);
  });

  it.each([['\u0000\u0001\u0002'], ['no head at all'], ['']])(
    'is refused when it is no mail: %j',
    async (text) => {
      const { status, body } = await drop(text);
      expect([status, (body as { detail?: string }).detail ?? '']).toEqual([
        400,
        expect.stringContaining('not an email'),
      ]);
    },
  );

  it('is nested beyond all sense and changes nothing', async () => {
    const deep = Array.from(
      { length: 200 },
      (_, at) => `Content-Type: multipart/mixed; boundary="b${at}"\r\n\r\n--b${at}\r\n`,
    );
    const before = (await arrivals()).length;
    const { status } = await drop(`From: deep@deep.example\r\n${deep.join('')}`);
    expect(status).toBe(400);
    expect((await arrivals()).length).toBe(before);
  });
});

describe('what came in by email', () => {
  it('is operations’ to look at; an email’s files are for whoever sees the mail', async () => {
    await rep.call('get', '/mail-arrivals').expect(403);
    await rep.call('post', '/mails/files').expect(403);
    await rep.call('get', '/mails/999999/files/0').expect(404);
    const { rows } = await operations.records(ask('mail'));
    for (const { id } of rows) await operations.call('get', `/mails/${id}/files/7`).expect(404);
  });

  it('is as it came: nobody makes an email up or changes one', async () => {
    await operations.call('post', '/mails', { subject: 'Made up' }).expect(422);
    const [mail] = (await operations.records(ask('mail'))).rows;
    await operations.against(mail.version, 'patch', `/mails/${mail.id}`, { subject: 'Other' }).expect(422);
  });

  it('comes to addresses of which there is one each, and none is a colleague’s', async () => {
    const make = (address: string) =>
      operations.call('post', '/capture-addresses', { name: 'X', address, to: 'rules', active: true });
    await make(HELLO).expect(422);
    await make('tamsin.rudd@brackwater.example').expect(422);
    await make('new@brackwater.example').expect(201);
  });
});

describe('an email as it really comes', () => {
  const drop = async (...lines: string[]) => {
    const { body } = await operations
      .call('post', '/mails/files')
      .set('Content-Type', 'message/rfc822')
      .send(lines.join('\r\n'))
      .expect(201);
    return body as MailArrival;
  };

  it.each([
    ['without its quotes', 'Lund, Inga <inga1@lund.example>', 'inga1@lund.example'],
    ['encoded, with a bare comma', '=?utf-8?Q?Lund,_Inga?= <inga2@lund.example>', 'inga2@lund.example'],
    ['as a comment', 'inga3@lund.example (Inga Lund)', 'inga3@lund.example'],
  ])('names its sender %s', async (_, from, email) => {
    await drop(`From: ${from}`, `Message-ID: <${email}>`, 'Subject: Gauges', '', 'Call me.');
    expect((await leadOf(email))[0]).toMatchObject({ name: 'Inga Lund' });
  });

  it('with an id that another one had is kept as its own, and the same one is not', async () => {
    const first = [
      'From: Asta Ode <asta@ode.example>',
      'Message-ID: <twice@ode.example>',
      'Subject: One',
      '',
      'One.',
    ];
    const one = await drop(...first);
    const other = await drop(...first.slice(0, 2), 'Subject: Two', '', 'Something else.');
    const again = await drop('Received: from a by b', ...first);
    expect(other.id).not.toBe(one.id);
    expect(again.id).toBe(one.id);
    const [lead] = await leadOf('asta@ode.example');
    const told = (await timeline(`/leads/${lead?.id}`)).filter(({ kind }) => kind === 'mail');
    expect(told).toHaveLength(2);
  });

  it('from a form is written by whom answers go to', async () => {
    await drop(
      'From: Website <no-reply@forms.example>',
      'Reply-To: Berit Strand <berit@strand-forms.example>',
      'Message-ID: <form@forms.example>',
      'Subject: Contact\u0007 form',
      '',
      'Please call.',
    );
    const [lead] = await leadOf('berit@strand-forms.example');
    expect(lead).toMatchObject({ name: 'Berit Strand' });
    const mail = (await timeline(`/leads/${lead?.id}`)).find(({ kind }) => kind === 'mail');
    expect(JSON.stringify(mail)).toContain('Contact form');
  });

  it('goes in circles no further', async () => {
    const hops = Array.from({ length: 30 }, (_, at) => `Received: from a${at} by b${at}`);
    const { outcome } = await drop(
      ...hops,
      'From: a@circle.example',
      'Message-ID: <c@circle.example>',
      'Subject: x',
      '',
      'x',
    );
    expect(outcome).toBe('loop');
  });

  it('brings an invitation under a name, and the cells of a table apart', async () => {
    await drop(
      'From: Odd Vik <odd@vik.example>',
      'Message-ID: <invite@vik.example>',
      'Subject: Meeting',
      'MIME-Version: 1.0',
      'Content-Type: multipart/mixed; boundary=b',
      '',
      '--b',
      'Content-Type: text/html; charset=utf-8',
      '',
      '<table><tr><td>Station</td><td>Depth</td></tr><tr><td>Weir</td><td>4 m</td></tr></table>',
      '--b',
      'Content-Type: text/calendar; method=REQUEST',
      '',
      'BEGIN:VCALENDAR',
      'END:VCALENDAR',
      '--b--',
    );
    const [lead] = await leadOf('odd@vik.example');
    const { rows } = await operations.records(
      ask('mail', { field: 'lead', is: 'anyOf', value: [Number(lead?.id)] }),
    );
    expect(rows[0].body).toBe('Station Depth\nWeir 4 m');
    expect((JSON.parse(String(rows[0].attachments)) as Attachment[]).map(({ name }) => name)).toEqual([
      'invitation.ics',
    ]);
  });
});

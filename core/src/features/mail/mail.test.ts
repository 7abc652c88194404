import fc from 'fast-check';
import { answered, newText, readSignature, senderOf, threadOf, unwritten, writerOf, type Message } from '.';

const message = (more: Partial<Message> & { header?: Record<string, string> } = {}): Message => {
  const { header = {}, ...rest } = more;
  return {
    from: { name: 'Runa Seagrave', address: 'runa@seagrave-harbour.example' },
    to: ['hello@brackwater.example'],
    subject: 'Gauges',
    text: '',
    references: [],
    headers: new Map(Object.entries(header)),
    ...rest,
  };
};

describe('who sent an email', () => {
  it.each([
    ['Runa Seagrave', 'Runa Seagrave'],
    ['"Seagrave, Runa"', 'Runa Seagrave'],
    ['Runa Seagrave (Harbour Office)', 'Runa Seagrave'],
    ['', 'Runa Seagrave'],
    ['runa.seagrave@trust.example', 'Runa Seagrave'],
  ])('is read from the name %j', (name, expected) => {
    expect(senderOf({ name, address: 'Runa.Seagrave@Trust.example' })?.name).toBe(expected);
  });

  it.each([
    ['a@seagrave-harbour.example', 'Seagrave Harbour', 'seagrave-harbour.example'],
    ['a@mail.tolmouth.co.example', 'Tolmouth', 'mail.tolmouth.co.example'],
    ['a@webmail.example', undefined, undefined],
    ['a@gmail.com', undefined, undefined],
  ])('has the organisation behind %s, unless it is a public provider', (address, organisation, web) => {
    expect(senderOf({ name: 'A B', address })).toEqual({
      name: 'A B',
      email: address,
      ...(organisation ? { organisation, web } : {}),
    });
  });

  it('is nobody when the address is none', () => {
    expect(senderOf({ name: 'x', address: 'undisclosed' })).toBeUndefined();
  });
});

describe('an email that nobody wrote', () => {
  it.each([
    'Automatic reply: Gauges',
    'Out of office: back on Monday',
    'Out of Office',
    'Abwesenheitsnotiz: Pegel',
    'Automatische Antwort: Pegel',
    'Réponse automatique : jauges',
    'Respuesta automática: medidores',
    'Risposta automatica: misuratori',
    'Automatisch antwoord: meters',
    'Autosvar: mätare',
    'Automatisk svar: målere',
    'Fravær: målere',
    'Automatyczna odpowiedź: mierniki',
    'Resposta automática: medidores',
    'Re: Automatic reply: Gauges',
  ])('is told by its subject: %s', (subject) => {
    expect(unwritten(message({ subject }), 'a@b.example')?.is).toBe('automatic');
  });

  it.each([
    'Out of office furniture for sale',
    'Automatic doors',
    'Your automatic gauge',
    'Absent-minded question',
    'Autonomous buoys',
  ])('is none by a subject such as: %s', (subject) => {
    expect(unwritten(message({ subject }), 'a@b.example')).toBeUndefined();
  });

  it.each(['Undeliverable: Gauges', 'Mail delivery failed: returning message', 'Unzustellbar: Pegel'])(
    'is a report of delivery: %s',
    (subject) => {
      expect(unwritten(message({ subject }), 'a@b.example')?.is).toBe('bounce');
    },
  );

  it('is told by its empty envelope, by what it asks for, and by how far it came', () => {
    expect(unwritten(message(), '')?.is).toBe('bounce');
    expect(unwritten(message(), undefined)).toBeUndefined();
    expect(unwritten(message({ header: { 'return-path': '<>' } }), undefined)?.is).toBe('bounce');
    expect(unwritten(message({ header: { 'x-auto-response-suppress': 'All' } }), 'a@b.example')?.is).toBe(
      'automatic',
    );
    expect(unwritten(message({ hops: 26 }), 'a@b.example')?.is).toBe('loop');
  });

  it('from an address that nobody reads is written by whom answers go to', () => {
    const from = { name: 'Website', address: 'no-reply@forms.example' };
    const replyTo = { name: 'Runa Seagrave', address: 'runa@seagrave.example' };
    expect(unwritten(message({ from }), 'x@forms.example')?.is).toBe('automatic');
    expect(unwritten(message({ from, replyTo }), 'x@forms.example')).toBeUndefined();
    expect(writerOf(message({ from, replyTo }))).toEqual(replyTo);
    expect(writerOf(message({ replyTo })).address).toBe('runa@seagrave-harbour.example');
    expect(writerOf(message({ from, replyTo: { name: '', address: 'noreply@x.example' } }))).toBe(from);
  });
});

describe('a signature', () => {
  const read = (text: string, name = 'Runa Seagrave') => readSignature(text, name, 'GB');

  it('says phone and role below its mark', () => {
    expect(
      read(
        'Could you call?\n\n-- \nRuna Seagrave\nHarbour master\nSeagrave Harbour Trust\nTel. 01632 960 123',
      ),
    ).toEqual({ phone: '+441632960123', role: 'Harbour master' });
  });

  it('is found without a mark, by the name that signs', () => {
    expect(
      read('We met 2 years ago.\n\nBest regards\nRuna Seagrave, Harbour master\n+44 (1632) 960-123'),
    ).toEqual({
      phone: '+441632960123',
      role: 'Harbour master',
    });
  });

  it('is not looked for in what is quoted, nor in the text itself', () => {
    const quoted = 'Thanks.\n\nOn 3 Nov 2026, Lars wrote:\n> --\n> Lars Westerholt\n> Sales\n> 01632 960 999';
    expect(read(quoted)).toEqual({});
    expect(read('Our meter reads 01632 960 123 since Monday.\nRegards')).toEqual({});
  });

  it('takes no address, number or website for a role', () => {
    expect(read('Hi\n--\nRuna Seagrave\nruna@seagrave.example\nwww.seagrave.example')).toEqual({});
  });

  it('reads any text without failing', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (text, name) => {
        const { phone, role } = readSignature(text, name, 'GB');
        expect(phone === undefined || /^\+\d+$/.test(phone)).toBe(true);
        expect(role === undefined || role.length <= 60).toBe(true);
      }),
    );
  });
});

describe('what somebody wrote themselves', () => {
  it.each([
    ['Yes please.\n\nOn Tue, 3 Nov 2026 at 10:00, Lars <l@b.example> wrote:\n> Shall we?'],
    ['Yes please.\n\n-----Original Message-----\nFrom: Lars'],
    ['Yes please.\n\nFrom: Lars\nSent: Tuesday\nTo: Runa'],
    ['Yes please.\n> Shall we?'],
  ])('stands above the quotation: %j', (text) => {
    expect(newText(text)).toBe('Yes please.');
  });

  it('keeps a line that only begins like a header', () => {
    expect(newText('From: here on it is steep.\nRegards')).toBe('From: here on it is steep.\nRegards');
  });
});

describe('what no person wrote', () => {
  it.each([
    ['an automatic reply', { 'auto-submitted': 'auto-replied; owner=x' }, 'automatic'],
    ['an old kind of automatic reply', { 'x-autoreply': 'yes' }, 'automatic'],
    ['a report of delivery', { 'content-type': 'multipart/report; report-type=delivery-status' }, 'bounce'],
    ['a mailing list', { 'list-id': '<pilots.example>' }, 'list'],
    ['bulk mail', { precedence: 'bulk' }, 'list'],
    ['its own mail coming back', { 'x-zawn': 'notice' }, 'loop'],
  ])('is told by its marks: %s', (_, header, is) => {
    expect(unwritten(message({ header }), 'runa@seagrave.example')?.is).toBe(is);
  });

  it.each(['MAILER-DAEMON@x.example', 'postmaster@x.example', 'noreply@x.example', 'do-not-reply@x.example'])(
    'is told by its sender: %s',
    (address) => {
      expect(unwritten(message({ from: { name: '', address } }), address)).toBeDefined();
    },
  );

  it('is not an email that says it was not automatic', () => {
    expect(unwritten(message({ header: { 'auto-submitted': 'no' } }), 'a@b.example')).toBeUndefined();
    expect(unwritten(message(), 'a@b.example')).toBeUndefined();
  });
});

describe('a thread', () => {
  it('is called after the message it began with', () => {
    expect(threadOf(message({ messageId: 'c', inReplyTo: 'b', references: ['a', 'b'] }))).toBe('a');
    expect(threadOf(message({ messageId: 'c', inReplyTo: 'b' }))).toBe('b');
    expect(threadOf(message({ messageId: 'c' }))).toBe('c');
  });

  it('goes back from the message answered directly', () => {
    expect(answered(message({ inReplyTo: 'c', references: ['a', 'b', 'c'] }))).toEqual(['c', 'b', 'a']);
  });
});

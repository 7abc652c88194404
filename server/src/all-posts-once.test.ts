import { IsNull, Not } from 'typeorm';
import {
  ask,
  type AnyRecord,
  type CurrentCall,
  type ImportLook,
  type ImportSummary,
  type Job,
  type MailArrival,
  type NewApiToken,
  type PhoneCall,
  type Written,
} from '@zawn/core';
import { Database } from './platform/database/database';
import { Imports } from './features/imports/imports';
import { Jobs } from './kernel/jobs/jobs';
import { Caller, routesOf, startServer, type TestServer } from './testing';

jest.setTimeout(120_000);
process.env.LOG_LEVEL = process.env.LOG_LEVEL ?? 'silent';

let server: TestServer;
let operations: Caller;
let rep: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

/** One way of posting: what is sent, against which version, and another body under the same key. */
interface Sent {
  path: string;
  body?: object | string;
  other?: object | string;
  version?: number;
  raw?: true;
}

const made = async (path: string, values: object): Promise<AnyRecord> => {
  const { body } = await rep.call('post', path, values).expect(201);
  return (body as Written<AnyRecord>).value;
};
const lead = () => made('/leads', { name: 'Once Only', status: 'untouched', owner: rep.id });
const account = () => made('/accounts', { name: 'Once Quay', relationship: 'prospect', owner: rep.id });
const contact = () => made('/contacts', { name: 'Once Harbourer', owner: rep.id });
const stage = () => rep.session.stages[0];
const deal = async () =>
  made('/deals', {
    name: 'Once Gauges',
    value: 100_000,
    currency: 'GBP',
    closeOn: '2026-12-20',
    pipeline: stage().pipeline,
    stage: stage().id,
    account: (await account()).id,
    owner: rep.id,
  });

/** Somebody who may leave. */
const colleague = async () => {
  const email = `once${(number += 1)}@brackwater.example`;
  const values = { name: 'Once Here', email, role: 'rep', active: true };
  const { body } = await operations.call('post', '/people', values).expect(201);
  return (body as Written<AnyRecord>).value;
};

/** A call list of somebody who can be called. */
const toBeCalled = async (name: string) => {
  const { id } = await made('/contacts', {
    name,
    phone: `+441632961${String((number += 1)).padStart(3, '0')}`,
    owner: rep.id,
  });
  const question = ask('contact', { field: 'id', is: 'anyOf', value: [id] });
  return { name, question, officeHours: false, sharing: 'private' };
};

/** A call that rings, from here or to here, after the one before was ended. */
const callFrom = async (direction: 'in' | 'out') => {
  await endCall();
  const path = direction === 'out' ? '/calls' : '/calls/incoming';
  const { body } = await rep
    .call('post', path, { number: `+441632960${String((number += 1)).padStart(3, '0')}` })
    .expect(201);
  return body as PhoneCall;
};
const endCall = async () => {
  const { body } = await rep.call('get', '/calls/current').expect(200);
  const { call } = body as CurrentCall;
  if (call && call.state !== 'ended') await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
};

/** Counts up, for what must not be the same twice. */
let number = 0;

/** A file of leads like no other. */
const leadsFile = () => {
  const batch = (number += 1);
  return `Name,Status\n${Array.from({ length: 20 }, (_, at) => `Once Imported ${batch} ${at},untouched`).join('\n')}`;
};

/** What begins the import of such a file. */
const handedIn = async () => {
  const { body } = await rep
    .call('post', '/imports/files?name=once.csv&as=lead')
    .set('Content-Type', 'application/octet-stream')
    .send(leadsFile())
    .expect(201);
  const { file, fileName, setup } = body as ImportLook;
  return { file, fileName, setup };
};

/** An email from somebody new. */
const mail = () => {
  const from = (number += 1);
  return `From: a${from}@once.example\r\nSubject: Gauge\r\nMessage-ID: <${from}@once.example>\r\n\r\nHello.\r\n`;
};

/** A report that counts deals. */
const dealsCounted = {
  version: 1,
  question: ask('deal'),
  figures: [{ key: 'a', measure: { as: 'count' } }],
  draw: 'figure',
};

/** A meeting pack with a report. */
const pack = () => {
  const design = JSON.stringify({
    version: 1,
    pages: [{ key: 'p', kind: 'report', design: dealsCounted }],
  });
  return made('/packs', { name: 'Once a month', sharing: 'private', design });
};

/** Every route that writes by POST, with how it is called. */
const posts: Record<string, () => Sent | Promise<Sent>> = {
  '/api/v1/:objects': () => ({
    path: '/accounts',
    body: { name: 'Sent Often', relationship: 'prospect', owner: rep.id },
    other: { name: 'Another', relationship: 'prospect', owner: rep.id },
  }),
  '/api/v1/usage/instead': async () => {
    const asked = JSON.stringify(dealsCounted);
    const report = { name: 'Shown', object: 'deal', sharing: 'private', design: asked };
    const { id } = await made('/reports', report);
    const tile = { key: 't', kind: 'report', report: id, at: { x: 0, y: 0, w: 4, h: 4 } };
    const design = JSON.stringify({ version: 1, tiles: [tile] });
    await made('/dashboards', { name: 'Shows it', sharing: 'private', design });
    return {
      path: '/usage/instead',
      body: { of: { report: id }, instead: { ready: 'win-rate' } },
      other: { of: { report: id }, instead: { ready: 'velocity' } },
    };
  },
  '/api/v1/snapshots/freeze': async () => {
    const { id } = await made('/folders', { name: 'Frozen once', sharing: 'private' });
    const frozen = (name: string) => ({ design: dealsCounted, name, folder: id, seenBy: 'each' });
    return { path: '/snapshots/freeze', body: frozen('One'), other: frozen('Two') };
  },
  '/api/v1/packs/:id/notes': async () => {
    const { id } = await pack();
    const noted = (text: string) => ({ kind: 'followUp', text });
    return { path: `/packs/${id}/notes`, body: noted('Ask once'), other: noted('Ask twice') };
  },
  '/api/v1/packs/:id/freeze': async () => {
    const { id } = await pack();
    const { id: folder } = await made('/folders', { name: 'Frozen pack', sharing: 'private' });
    const frozen = (seenBy: string) => ({ folder, seenBy });
    return { path: `/packs/${id}/freeze`, body: frozen('each'), other: frozen('whole') };
  },
  '/api/v1/packs/:id/next': async () => {
    const { id } = await pack();
    return { path: `/packs/${id}/next`, body: { name: 'Next' }, other: { name: 'Another' } };
  },
  '/api/v1/leads': () => ({ path: '/leads', body: { name: 'Sent Often' }, other: { name: 'Another' } }),
  '/api/v1/bulk': async () => {
    const ids = [(await contact()).id, (await contact()).id];
    const plan = (name: string) => ({
      object: 'contact',
      selection: { ids },
      action: { do: 'plan', activity: { name, kind: 'call', dueOn: '2026-12-01' } },
    });
    return { path: '/bulk', body: plan('Call once'), other: plan('Call twice') };
  },
  '/api/v1/imports': async () => {
    const sent = await handedIn();
    return { path: '/imports', body: sent, other: { ...sent, fileName: 'other.csv' } };
  },
  '/api/v1/imports/files': () => ({
    path: '/imports/files?name=once.csv&as=lead',
    body: leadsFile(),
    other: leadsFile(),
    raw: true,
  }),
  '/api/v1/imports/:id/cancel': async () => {
    const { body } = await rep.call('post', '/imports', await handedIn()).expect(201);
    return { path: `/imports/${(body as ImportSummary).id}/cancel` };
  },
  '/api/v1/mails/files': () => ({ path: '/mails/files', body: mail(), other: mail(), raw: true }),
  '/api/v1/duplicates/merge': async () => {
    const [survivor, other] = [await account(), await account()];
    const body = { object: 'account', survivor: survivor.id, other: other.id, take: {} };
    const reversed = { ...body, take: { name: 'other' } };
    return { path: '/duplicates/merge', body, other: reversed, version: survivor.version };
  },
  '/api/v1/duplicates/look': async () => {
    // Looked for before, the same pairs are found again.
    const body = { object: 'lead' };
    await rep.call('post', '/duplicates/look', body).expect(200);
    return { path: '/duplicates/look', body, other: { object: 'contact' } };
  },
  '/api/v1/duplicates/verdicts': async () => {
    const ids = [(await account()).id, (await account()).id];
    const judged = (verdict: string | null) => ({ object: 'account', ids, verdict });
    return { path: '/duplicates/verdicts', body: judged('different'), other: judged(null) };
  },
  '/api/v1/units/:id/undo': async () => {
    const { body } = await rep.call('post', '/accounts', {
      name: 'Gone Again',
      relationship: 'prospect',
      owner: rep.id,
    });
    return { path: `/units/${(body as Written<AnyRecord>).unit}/undo` };
  },
  '/api/v1/deals/:id/new-contact': async () => {
    const { id } = await deal();
    const named = (name: string) => ({ name, role: 'decides' });
    return { path: `/deals/${id}/new-contact`, body: named('Perran One'), other: named('Perran Two') };
  },
  '/api/v1/deals/moves': async () => {
    const { id, version, stage } = await deal();
    const moves = (closeOn: string) => ({ moves: [{ id, version, stage, closeOn }] });
    return { path: '/deals/moves', body: moves('2027-01-05'), other: moves('2027-01-06') };
  },
  '/api/v1/deals/:id/renew': async () => {
    const { id, version } = await deal();
    await rep.against(version, 'post', `/deals/${id}/win`, {}).expect(200);
    return { path: `/deals/${id}/renew` };
  },
  '/api/v1/deals/:id/win': async () => {
    const { id, version } = await deal();
    return { path: `/deals/${id}/win`, version, body: { value: 5 }, other: { value: 6 } };
  },
  '/api/v1/deals/:id/pipeline': async () => {
    const { id, version, pipeline } = await deal();
    const { stages } = rep.session;
    const to = stages.find((stage) => stage.pipeline !== pipeline);
    const second = stages.find((stage) => stage.pipeline === to?.pipeline && stage.id !== to?.id);
    return {
      path: `/deals/${id}/pipeline`,
      version,
      body: { pipeline: to?.pipeline, stage: to?.id },
      other: { pipeline: to?.pipeline, stage: second?.id },
    };
  },
  '/api/v1/deals/:id/lose': async () => {
    const { id, version } = await deal();
    const lost = (lossComment: string) => ({ lossReason: 'price', lossComment, tryAgainOn: '2027-03-01' });
    return { path: `/deals/${id}/lose`, version, body: lost('a'), other: lost('b') };
  },
  '/api/v1/deals/:id/ending': async () => {
    const { id } = await deal();
    const { body } = await rep.against(1, 'post', `/deals/${id}/win`, {}).expect(200);
    const { version } = (body as Written<AnyRecord>).value;
    return { path: `/deals/${id}/ending`, version, body: { wonBecause: 'a' }, other: { wonBecause: 'b' } };
  },
  '/api/v1/deals/:id/reopen': async () => {
    const { id, version } = await deal();
    const { body } = await rep.against(version, 'post', `/deals/${id}/win`, {}).expect(200);
    return { path: `/deals/${id}/reopen`, version: (body as Written<AnyRecord>).value.version };
  },
  '/api/v1/leads/:id/disqualify': async () => {
    const { id, version } = await lead();
    const [reason] = ['noBudget'];
    const why = (disqualifyComment: string) => ({
      disqualifyReason: reason,
      disqualifyComment,
      lookAgainOn: '2027-01-05',
    });
    return { path: `/leads/${id}/disqualify`, version, body: why('a'), other: why('b') };
  },
  '/api/v1/leads/:id/conversion': async () => {
    const { id, version } = await lead();
    const choice = (name: string) => ({ contact: { create: { name, owner: rep.id } } });
    return { path: `/leads/${id}/conversion`, version, body: choice('Once'), other: choice('Twice') };
  },
  '/api/v1/activities/:id/done': async () => {
    const { id, version } = await made('/activities', {
      name: 'Call',
      kind: 'task',
      dueOn: '2026-11-20',
      owner: rep.id,
      contact: (await contact()).id,
    });
    const next = { name: 'And then', kind: 'task', dueOn: '2026-11-25' };
    return {
      path: `/activities/${id}/done`,
      version,
      body: { result: 'a', next },
      other: { result: 'b', next },
    };
  },
  '/api/v1/calls': async () => {
    await endCall();
    const call = async () => ({
      number: '+441632960118',
      on: { object: 'contact', id: (await contact()).id },
    });
    return { path: '/calls', body: await call(), other: await call() };
  },
  '/api/v1/calls/incoming': async () => {
    await endCall();
    return {
      path: '/calls/incoming',
      body: { number: '+441632960119' },
      other: { number: '+441632960120' },
    };
  },
  '/api/v1/call-lists': async () => ({
    path: '/call-lists',
    body: await toBeCalled('Once called'),
    other: await toBeCalled('Twice called'),
  }),
  '/api/v1/call-lists/:id/next': async () => {
    await endCall();
    return { path: `/call-lists/${(await made('/call-lists', await toBeCalled('One by one'))).id}/next` };
  },
  '/api/v1/call-lists/:id/again': async () => ({
    path: `/call-lists/${(await made('/call-lists', await toBeCalled('All again'))).id}/again`,
  }),
  '/api/v1/calls/:id/answer': async () => ({ path: `/calls/${(await callFrom('in')).id}/answer` }),
  '/api/v1/calls/:id/hang-up': async () => ({ path: `/calls/${(await callFrom('out')).id}/hang-up` }),
  '/api/v1/calls/:id/outcome': async () => {
    const { id } = await callFrom('out');
    await rep.call('post', `/calls/${id}/hang-up`).expect(200);
    return { path: `/calls/${id}/outcome`, body: { outcome: 'noAnswer' }, other: { outcome: 'message' } };
  },
  '/api/v1/calls/:id/lead': async () => {
    const { id } = await callFrom('in');
    return { path: `/calls/${id}/lead`, body: { name: 'Once Calling' }, other: { name: 'Twice Calling' } };
  },
  '/api/v1/activities/:id/drop': async () => {
    const values = { name: 'Dropped', kind: 'task', dueOn: '2026-11-20', owner: rep.id };
    const { id, version } = await made('/activities', { ...values, contact: (await contact()).id });
    return { path: `/activities/${id}/drop`, version, body: { reason: 'a' }, other: { reason: 'b' } };
  },
  '/api/v1/activities/together': () => {
    const activity = { name: 'For two', kind: 'task', dueOn: '2026-11-20' };
    const people = [rep.id];
    return Promise.resolve({
      path: '/activities/together',
      body: { activity, people },
      other: { activity: { ...activity, name: 'For others' }, people },
    });
  },
  '/api/v1/activities/:id/heard': async () => {
    const recorded = ask('activity', { field: 'recording', is: 'isNotEmpty' });
    const unheard = (await operations.records(recorded)).rows.filter(({ heardBy }) => heardBy === null);
    return { path: `/activities/${unheard[0].id}/heard` };
  },
  '/api/v1/activities/logged': async () => {
    const activity = { name: 'Thought it over', kind: 'task', contact: (await contact()).id };
    return { path: '/activities/logged', body: { activity }, other: { activity, result: 'b' } };
  },
  '/api/v1/contacts/:id/touch': async () => {
    const { id, version } = await contact();
    return { path: `/contacts/${id}/touch`, version, body: { do: 'stop' }, other: { do: 'notThisTime' } };
  },
  '/api/v1/contact-suggestions/:id/take': () => suggestion('take'),
  '/api/v1/contact-suggestions/:id/leave': () => suggestion('leave'),
  '/api/v1/:objects/:id/files': async () => ({
    path: `/contacts/${(await contact()).id}/files?name=once.txt`,
    body: 'one content',
    other: 'another content',
    raw: true,
  }),
  '/api/v1/bin/restore': async () => {
    const { id, version } = await contact();
    await rep.against(version, 'delete', `/contacts/${id}`).expect(200);
    return { path: '/bin/restore', body: { object: 'contact', id }, other: { object: 'account', id } };
  },
  '/api/v1/tokens': () => ({
    path: '/tokens',
    body: { name: 'Once', scope: 'read' },
    other: { name: 'Twice', scope: 'read' },
  }),
  '/api/v1/tokens/:id/revoke': async () => {
    const { body } = await rep.call('post', '/tokens', { name: 'Short', scope: 'read' }).expect(201);
    return { path: `/tokens/${(body as NewApiToken).id}/revoke` };
  },
  '/api/v1/people/:id/password-link': async () => ({
    path: `/people/${(await colleague()).id}/password-link`,
  }),
  '/api/v1/people/:id/second-step/removal': async () => ({
    path: `/people/${(await colleague()).id}/second-step/removal`,
  }),
  '/api/v1/people/:id/leaving': async () => {
    const { id } = await colleague();
    const handOver = [{ object: 'lead', to: [rep.id] }];
    return { path: `/people/${id}/leaving`, body: { handOver }, other: { handOver: [] } };
  },
  '/api/v1/rates/entries': () => {
    const entered = (rate: number) => ({ rates: [{ currency: 'USD', validFrom: '2026-11-01', rate }] });
    return { path: '/rates/entries', body: entered(0.79 + (number += 1) / 1000), other: entered(0.5) };
  },
  '/api/v1/pipelines/:id/stage-order': () => {
    const ids = operations.session.stages
      .filter(({ pipeline }) => pipeline === stage().pipeline)
      .map(({ id }) => id);
    // Another order each time.
    const turn = 1 + ((number += 1) % (ids.length - 1));
    const body = { stages: [...ids.slice(turn), ...ids.slice(0, turn)] };
    return {
      path: `/pipelines/${stage().pipeline}/stage-order`,
      body,
      other: { stages: [...ids].reverse() },
    };
  },
  '/api/v1/stages/:id/retirement': async () => {
    const { body } = await operations
      .call('post', '/stages', {
        name: `Stage ${(number += 1)}`,
        pipeline: stage().pipeline,
        position: 0,
        probability: 10,
        usualDays: 7,
      })
      .expect(201);
    const { id } = (body as Written<AnyRecord>).value;
    return { path: `/stages/${id}/retirement`, body: { to: stage().id }, other: { to: id } };
  },
  '/api/v1/pipelines/:id/retirement': async () => {
    const name = `Pipeline ${(number += 1)}`;
    const { body } = await operations.call('post', '/pipelines', { name, position: 0 }).expect(201);
    const { id } = (body as Written<AnyRecord>).value;
    const { body: added } = await operations
      .call('post', '/stages', { name: 'Only', pipeline: id, position: 0, probability: 10, usualDays: 7 })
      .expect(201);
    const path = `/pipelines/${id}/retirement`;
    const from = (added as Written<AnyRecord>).value.id;
    return { path, body: { stages: [] }, other: { stages: [{ stage: from, to: stage().id }] } };
  },
  '/api/v1/holidays/entries': () => {
    const entered = (name: string) => ({ holidays: [{ day: '2027-01-01', name }] });
    return { path: '/holidays/entries', body: entered(`Fair ${(number += 1)}`), other: entered('Rest') };
  },
  '/api/v1/target-entries': () => {
    const entry = {
      owner: rep.id,
      team: null,
      startsOn: '2031-01-01',
      amount: (number += 1) * 100,
      currency: 'GBP',
    };
    return {
      path: '/target-entries',
      body: { entries: [entry] },
      other: { entries: [{ ...entry, amount: 1 }] },
    };
  },
  '/api/v1/territory-work': async () => {
    // Something that is not in its place yet: the last territory of all becomes another.
    const name = `Territory ${(number += 1)}`;
    const body = {
      name,
      object: 'account',
      condition: null,
      team: 1,
      position: -number + 1000,
      active: true,
    };
    await operations.call('post', '/territories', body).expect(201);
    return { path: '/territory-work', body: { object: 'account' }, other: { object: 'lead' } };
  },
  '/api/v1/notices/read': () => ({ path: '/notices/read', body: {}, other: { id: 1 } }),
  '/api/v1/jobs/:id/cancel': async () => {
    const { id } = await contact();
    const action = { do: 'tag', add: ['once'], remove: [] };
    const { body } = await rep.call('post', '/bulk', { object: 'contact', selection: { ids: [id] }, action });
    return { path: `/jobs/${(body as Job).id}/cancel` };
  },
  '/api/v1/submissions/:id/take': async () => {
    const { rows: forms } = await operations.records(ask('form'));
    const { writer } = server.app.get(Database);
    const key = `once ${Math.random()}`;
    const row = {
      form: forms[0].id,
      at: '2026-11-19T08:00:00.000Z',
      state: 'held',
      why: 'fast',
      origin: '{"campaign":{}}',
    };
    const id = await writer.transaction(async (manager) => {
      const typed = JSON.stringify({ name: 'Held Back', email: 'held@once.example' });
      const { identifiers } = await manager.insert('submission', {
        ...row,
        typed,
        consent: null,
        lead: null,
        key,
      });
      return Number(identifiers[0].id);
    });
    return { path: `/submissions/${id}/take` };
  },
};

async function suggestion(action: 'take' | 'leave'): Promise<Sent> {
  const { id } = await contact();
  const { writer } = server.app.get(Database);
  const at = '2026-11-19T08:00:00.000Z';
  const detail = await writer.transaction(async (manager) => {
    const row = {
      contact: id,
      field: 'role',
      value: 'Head of gauges',
      state: 'open',
      version: 1,
      createdAt: at,
      updatedAt: at,
    };
    return Number((await manager.insert('contactSuggestion', row)).identifiers[0].id);
  });
  return { path: `/contact-suggestions/${detail}/${action}` };
}

/** What names that which an answer is about. */
const nameOf = (body: unknown) => {
  const { id, unit, file } = body as Partial<Job & ImportLook>;
  return id ?? unit ?? file;
};

/** Routes that post and write nothing twice without a key: they only look, or what they take in names itself. */
const others: Record<string, string> = {
  '/api/v1/session': 'begins a session',
  '/api/v1/organisation': 'there is one organisation',
  '/api/v1/questions/records': 'reads',
  '/api/v1/questions/read': 'reads',
  '/api/v1/role-preview': 'reads',
  '/api/v1/territory-work/preview': 'reads',
  '/api/v1/questions/figures': 'reads',
  '/api/v1/deals/grid': 'reads',
  '/api/v1/forecast/progress': 'reads',
  '/api/v1/exports': 'reads',
  '/api/v1/reports/answer': 'reads',
  '/api/v1/reports/file': 'reads',
  '/api/v1/reports/movement': 'reads',
  '/api/v1/snapshots/:id/records': 'reads',
  '/api/v1/snapshots/:id/compare': 'reads',
  '/api/v1/snapshots/:id/compare/file': 'reads',
  '/api/v1/snapshots/:id/differences': 'reads',
  '/api/v1/snapshots/:id/file': 'reads',
  '/api/v1/packs/:id/file': 'reads',
  '/api/v1/bulk/preview': 'reads',
  '/api/v1/imports/look': 'reads',
  '/api/v1/imports/preview': 'reads',
  '/api/v1/imports/examples': 'reads',
  '/api/v1/assignment/try': 'reads',
  '/api/v1/people/:id/leaving/preview': 'reads',
  '/api/v1/rates/read': 'reads',
  '/api/v1/holidays/read': 'reads',
  '/api/v1/demo-company': 'asked for twice at once, one is started',
  '/api/v1/backups': 'asked for twice at once, one is made',
  '/api/v1/password-links': 'the next link ends the one before',
  '/api/v1/password-links/:secret': 'a link works once',
  '/api/v1/session/second-step': 'sets up anew what was not turned on',
  '/api/v1/duplicates/preview': 'reads',
  '/f/:slug': 'each page of a form has a key of its own',
  '/stand-ins/website': 'shows a page',
};

const WATCHED = [
  'lead',
  'contact',
  'account',
  'deal',
  'activity',
  'note',
  'file',
  'mail',
  'arrival',
  'unit',
  'change',
  'job',
  'import',
  'apiToken',
  'passwordLink',
  'merged',
  'duplicatePair',
];
const counts = async () => {
  const { reading } = server.app.get(Database);
  const found: Record<string, number> = {};
  // Pairs are found among whatever is there, behind the writes; what is said of them is somebody's doing.
  const judged = { where: { verdict: Not(IsNull()) } };
  for (const name of WATCHED)
    found[name] = await reading.manager.count(name, name === 'duplicatePair' ? judged : {});
  return found;
};

const TIMES = 10;

describe('a POST with a key', () => {
  // A call that goes on ringing is written down as missed some time later, while something else is counted.
  afterEach(() => endCall());

  it('is known for every route of the running application', () => {
    const all = routesOf(server)
      .filter(({ method, path }) => method === 'post' && !path.includes('*'))
      .map(({ path }) => path);
    expect(all.filter((path) => !posts[path] && !others[path])).toEqual([]);
    expect(Object.keys(posts).filter((path) => !all.includes(path))).toEqual([]);
  });

  const isOperations = (path: string) =>
    /submissions|mails|people|heard|rates|holidays|pipelines|stages|territory|target-/.test(path);
  const send = ({ path, body, version, raw }: Sent, key: string) => {
    const headers = { 'Idempotency-Key': key, ...(version ? { 'If-Match': `"${version}"` } : {}) };
    const caller = isOperations(path) ? operations : rep;
    if (!raw) return caller.call('post', path, body as object, headers);
    return caller
      .call('post', path, undefined, headers)
      .set('Content-Type', 'application/octet-stream')
      .send(body);
  };
  const settled = async (body: unknown) => {
    const { id, kind, target } = body as Partial<Job & ImportSummary>;
    const { actor } =
      kind === 'leaving' || kind === 'territories' || kind === 'retirement'
        ? operations.session
        : rep.session;
    if (kind && id) await server.app.get(Jobs).settled(actor, id, 10_000);
    if (target && id) await server.app.get(Imports).settled(id);
  };

  it.each(Object.keys(posts))(
    '%s has its effect once, sent often at the same time and later',
    async (route) => {
      // Alone it shows what once comes to.
      const alone = await posts[route]();
      const start = await counts();
      const first = await send(alone, `alone ${(number += 1)}`);
      expect([route, first.status, first.status < 300 ? '' : first.text]).toEqual([route, first.status, '']);
      await settled(first.body);
      const end = await counts();
      const effect = Object.fromEntries(WATCHED.map((name) => [name, end[name] - start[name]]));

      const sent = await posts[route]();
      const key = `often ${(number += 1)}`;
      const before = await counts();
      const answers = await Promise.all(Array.from({ length: TIMES }, () => send(sent, key)));
      for (const { body } of answers) await settled(body);
      answers.push(await send(sent, key));
      const after = await counts();
      expect(Object.fromEntries(WATCHED.map((name) => [name, after[name] - before[name]]))).toEqual(effect);
      // A secret is shown once; whoever asks again is told so.
      const isSecret = ['/api/v1/tokens', '/api/v1/people/:id/password-link'].includes(route);
      const good = answers.filter(({ status }) => status === first.status);
      expect([route, good.length, answers.map(({ status }) => status)]).toEqual([
        route,
        isSecret ? 1 : TIMES + 1,
        answers.map(({ status }) => status),
      ]);
      const named = new Set(good.map(({ body }) => JSON.stringify(nameOf(body))));
      expect(named.size).toBe(1);

      const differing =
        sent.other === undefined ? { ...sent, body: { something: 'else' } } : { ...sent, body: sent.other };
      const { status, body } = await send(differing, key);
      expect([route, status, (body as { type: string }).type]).toEqual([route, 422, '/problems/key-reused']);
      expect(await counts()).toEqual(after);
    },
  );

  it('an import begun five times at once without any key is one', async () => {
    const sent = await posts['/api/v1/imports']();
    const answers = await Promise.all(
      Array.from({ length: 5 }, () => rep.call('post', sent.path, sent.body as object)),
    );
    const begun = answers.filter(({ status }) => status === 201);
    expect([begun.length, answers.filter(({ status }) => status === 409).length]).toEqual([1, 4]);
    await settled(begun[0].body);
    const { total } = await rep.records(ask('lead', { field: 'createdAt', is: 'isNotEmpty' }), 1);
    const { body } = await rep.call('get', `/imports/${(begun[0].body as ImportSummary).id}`).expect(200);
    expect((body as ImportSummary).counts.create).toBe(20);
    expect(total).toBeGreaterThan(20);
  });

  it('an email handed in twice at once is one', async () => {
    const sent = mail();
    const drop = () =>
      operations.call('post', '/mails/files').set('Content-Type', 'message/rfc822').send(sent).expect(201);
    const answers = await Promise.all([drop(), drop(), drop()]);
    expect(new Set(answers.map(({ body }) => (body as MailArrival).id)).size).toBe(1);
  });
});

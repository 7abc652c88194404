import { ask, type AnyRecord, type ConversionPreview, type Converted, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let account: AnyRecord;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  [account] = (await rep.records({ ...ask('account'), sort: [{ field: 'id' }] })).rows;
});
afterAll(() => server.close());

const newLead = async (more: object = {}) => {
  const lead = {
    name: 'Sunniva Quillfeather',
    organisation: 'Oxmarrow Sea Pools',
    email: 'sunniva@oxmarrow.example',
    status: 'working',
    owner: rep.id,
    budget: 2_000_000,
    currency: 'GBP',
    timeFrame: 'month',
  };
  const { body } = await rep.call('post', '/leads', { ...lead, ...more }).expect(201);
  return (body as Written<AnyRecord>).value;
};
const preview = async (id: number) =>
  (await rep.call('get', `/leads/${id}/conversion`).expect(200)).body as ConversionPreview;
const chosenFrom = ({ proposal }: ConversionPreview) => ({
  contact: { create: proposal.contact },
  account: proposal.account && { create: proposal.account },
  deal: { ...proposal.deal, pipeline: 1, stage: rep.session.stages[0].id, owner: rep.id },
});

describe('converting a lead', () => {
  it('shows who and what may be there already, with the reason', async () => {
    const [contact] = (
      await rep.records(ask('contact', { field: 'account', is: 'anyOf', value: [account.id] }))
    ).rows;
    const lead = await newLead({
      name: contact.name,
      email: contact.email,
      organisation: `${String(account.name)} Ltd`,
      web: account.domain,
    });
    const { contacts, accounts } = await preview(lead.id);
    expect(contacts[0]).toMatchObject({ id: contact.id, reason: 'Same email', likeness: 1 });
    expect(accounts[0]).toMatchObject({
      id: account.id,
      name: account.name,
      reason: expect.stringContaining('Same domain and similar name') as string,
    });
  });

  it('does not show what belongs to someone else', async () => {
    const other = await Caller.signIn(server, 'greta.lindqvell');
    const [hidden] = (await other.records(ask('account'))).rows;
    const lead = await newLead({ organisation: hidden.name, web: hidden.domain });
    expect((await preview(lead.id)).accounts.map(({ id }) => id)).not.toContain(hidden.id);
  });

  it('makes contact, account and deal in one unit and brings the timeline along', async () => {
    const lead = await newLead();
    await rep.call('post', '/notes', { body: 'Two pools, one pump house.', lead: lead.id }).expect(201);
    await rep
      .call('post', '/activities', {
        name: 'Call back',
        kind: 'call',
        dueOn: '2026-11-20',
        owner: rep.id,
        lead: lead.id,
      })
      .expect(201);
    const choice = chosenFrom(await preview(lead.id));
    const { body } = await rep
      .against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice)
      .expect(201);
    const { value, unit } = body as Written<Converted>;
    const deal = ((await rep.call('get', `/deals/${value.deal}`).expect(200)).body as { record: AnyRecord })
      .record;
    expect(deal).toMatchObject({
      contact: value.contact,
      account: value.account,
      lead: lead.id,
      value: 2_000_000,
      closeOn: '2026-12-19',
      nextStepOn: '2026-11-20',
    });
    const { body: timeline } = await rep.call('get', `/deals/${value.deal}/timeline`).expect(200);
    const kinds = (timeline as { rows: { kind: string; on?: string | null }[] }).rows;
    expect(kinds.some(({ kind }) => kind === 'note')).toBe(true);
    expect(kinds.some(({ kind, on }) => kind === 'change' && on === 'Sunniva Quillfeather')).toBe(true);

    const now = (await rep.call('get', `/leads/${lead.id}`)).body as { record: AnyRecord };
    expect(now.record).toMatchObject({ status: 'converted', deal: value.deal });
    await rep.against(now.record.version, 'patch', `/leads/${lead.id}`, { city: 'X' }).expect(409);
    await rep.against(now.record.version, 'post', `/leads/${lead.id}/conversion`, choice).expect(409);

    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect((await rep.call('get', `/leads/${lead.id}`)).body).toMatchObject({
      record: { status: 'working', convertedAt: null, deal: null },
    });
    await rep.call('get', `/deals/${value.deal}`).expect(404);
    await rep.call('get', `/contacts/${value.contact}`).expect(404);
  });

  it('links an account that is there and leaves it as it is', async () => {
    const lead = await newLead({ name: 'Yara Brandtveit', email: 'yara@oxmarrow.example' });
    const choice = { ...chosenFrom(await preview(lead.id)), account: { link: account.id }, deal: null };
    const { body } = await rep
      .against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice)
      .expect(201);
    expect((body as Written<Converted>).value).toMatchObject({ account: account.id, deal: null });
    expect((await rep.call('get', `/accounts/${account.id}`)).body).toMatchObject({
      record: { name: account.name, version: account.version },
    });
  });

  it('writes nothing at all when one part is wrong', async () => {
    const lead = await newLead({ name: 'Ulla Falkenrath', email: 'ulla@oxmarrow.example' });
    const before = (await rep.records(ask('contact'), 1)).total;
    const choice = chosenFrom(await preview(lead.id));
    const wrong = [
      { ...choice, deal: { ...choice.deal, closeOn: 'soon' } },
      { ...choice, account: { link: 999_999 } },
      { ...choice, contact: { link: 1, create: {} } },
      { ...choice, surprise: true },
    ];
    for (const body of wrong) {
      const { status } = await rep.against(lead.version, 'post', `/leads/${lead.id}/conversion`, body);
      expect([404, 422]).toContain(status);
    }
    await rep.against(lead.version + 5, 'post', `/leads/${lead.id}/conversion`, choice).expect(409);
    expect((await rep.records(ask('contact'), 1)).total).toBe(before);
    expect((await rep.call('get', `/leads/${lead.id}`)).body).toMatchObject({
      record: { status: 'working', version: lead.version },
    });
  });

  it('is the only way a lead becomes converted', async () => {
    const lead = await newLead({ name: 'Nell Wansbeck', email: 'nell@oxmarrow.example' });
    await rep.against(1, 'patch', `/leads/${lead.id}`, { status: 'converted' }).expect(422);
  });
});

describe('converting more than one person', () => {
  it('takes others of the same account along, and closes a simple deal as won at once', async () => {
    const lead = await newLead({ name: 'Idony Marrack', email: 'idony@oxmarrow.example', tags: ['pools'] });
    const known = (await rep.records(ask('contact', { field: 'account', is: 'isEmpty' }), 1)).rows[0];
    const choice = {
      ...chosenFrom(await preview(lead.id)),
      others: [
        { create: { name: 'Corwin Marrack', role: 'Pool keeper', owner: rep.id } },
        ...(known ? [{ link: known.id }] : []),
      ],
      won: true,
    };
    const { body } = await rep
      .against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice)
      .expect(201);
    const { value, label } = body as Written<Converted>;
    expect(label).toBe('Converted “Idony Marrack”');
    expect(value.others).toHaveLength(choice.others.length);
    const other = ((await rep.call('get', `/contacts/${value.others[0]}`)).body as { record: AnyRecord })
      .record;
    expect(other).toMatchObject({ name: 'Corwin Marrack', account: value.account });
    const contact = ((await rep.call('get', `/contacts/${value.contact}`)).body as { record: AnyRecord })
      .record;
    expect(contact).toMatchObject({ tags: ['pools'] });
    const deal = ((await rep.call('get', `/deals/${value.deal}`)).body as { record: AnyRecord }).record;
    expect(deal).toMatchObject({ outcome: 'won', closedOn: '2026-11-19', tags: ['pools'] });
  });

  it('takes twenty at most', async () => {
    const lead = await newLead({ name: 'Many Friends', email: 'many@oxmarrow.example' });
    const others = Array.from({ length: 21 }, (_, at) => ({
      create: { name: `Friend ${at}`, owner: rep.id },
    }));
    const choice = { ...chosenFrom(await preview(lead.id)), others };
    await rep.against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice).expect(422);
  });
});

describe('converting from two windows', () => {
  it('happens once', async () => {
    const lead = await newLead({ name: 'Wenna Penrose', email: 'wenna@oxmarrow.example' });
    const choice = chosenFrom(await preview(lead.id));
    const answers = await Promise.all(
      [1, 2].map(() => rep.against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice)),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409]);
    const made = await rep.records(
      ask('contact', { field: 'email', is: 'contains', value: 'wenna@oxmarrow.example' }),
    );
    expect(made.total).toBe(1);
  });
});

describe('reversing a conversion', () => {
  const converted = async (name: string) => {
    const lead = await newLead({ name, email: `${name.split(' ')[0].toLowerCase()}@oxmarrow.example` });
    const choice = chosenFrom(await preview(lead.id));
    const { body } = await rep
      .against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice)
      .expect(201);
    return { lead, made: (body as Written<Converted>).value };
  };

  it('is for whoever has the lead in reach, not only for who converted it', async () => {
    const { lead, made } = await converted('Rosen Trelawn');
    const manager = await Caller.signIn(server, 'maren.ollerby');
    await manager.call('delete', `/leads/${lead.id}/conversion`).expect(200);
    expect((await rep.call('get', `/leads/${lead.id}`)).body).toMatchObject({
      record: { status: 'working', convertedAt: null, contact: null },
    });
    await rep.call('get', `/deals/${made.deal}`).expect(404);
    await rep.call('delete', `/leads/${lead.id}/conversion`).expect(409);
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    await stranger.call('delete', `/leads/${lead.id}/conversion`).expect(404);
  });

  it('is refused once something rests on it, and says what; taken back, it works again', async () => {
    const { lead, made } = await converted('Elowen Carrick');
    const { body: planned } = await rep
      .call('post', '/activities', {
        name: 'Measure the basin',
        kind: 'call',
        dueOn: '2026-11-25',
        owner: rep.id,
        deal: made.deal,
      })
      .expect(201);
    const { body: refused } = await rep.call('delete', `/leads/${lead.id}/conversion`).expect(409);
    const { detail } = refused as { detail: string };
    expect(detail).toContain('activity “Measure the basin”');
    await rep.call('get', `/deals/${made.deal}`).expect(200);
    await rep.call('post', `/units/${(planned as Written<AnyRecord>).unit}/undo`).expect(200);
    const { status, body } = await rep.call('delete', `/leads/${lead.id}/conversion`);
    expect([status, body]).toEqual([
      200,
      expect.objectContaining({ label: 'Undone: Converted “Elowen Carrick”' }),
    ]);
  });
});

describe('a conversion whose contact was changed since', () => {
  it('stays, and says which record stands in the way', async () => {
    const lead = await newLead({ name: 'Derwa Hendra', email: 'derwa@oxmarrow.example' });
    const choice = chosenFrom(await preview(lead.id));
    const { body } = await rep
      .against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice)
      .expect(201);
    const { contact } = (body as Written<Converted>).value;
    const { record } = (await rep.call('get', `/contacts/${contact}`)).body as { record: AnyRecord };
    await rep.against(record.version, 'patch', `/contacts/${contact}`, { role: 'Keeper' }).expect(200);
    const { body: refused } = await rep.call('delete', `/leads/${lead.id}/conversion`).expect(409);
    expect((refused as { detail: string }).detail).toContain('contact “Derwa Hendra”, changed since');
    expect((await rep.call('get', `/leads/${lead.id}`)).body).toMatchObject({
      record: { status: 'converted', contact },
    });
  });
});

describe('where the fields of a lead go', () => {
  it('is what operations say, checked, and not for others to say', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const say = (body: object) => operations.call('post', '/carry-overs', body);
    await rep.call('post', '/carry-overs', { field: 'campaign', deal: 'externalId' }).expect(403);
    await say({ field: 'shoe' }).expect(422);
    await say({ field: 'campaign', deal: 'value' }).expect(422);
    await say({ field: 'campaign', deal: 'gone' }).expect(422);
    await say({ field: 'campaign', contact: null, account: null, deal: 'externalId' }).expect(201);
    await say({ field: 'campaign' }).expect(409);
    const lead = await newLead({
      name: 'Jory Nance',
      email: 'jory@oxmarrow.example',
      campaign: 'Spring tide',
    });
    expect((await preview(lead.id)).proposal.deal).toMatchObject({ externalId: 'Spring tide' });
  });
});

describe('converting with fields of the lead that one does not see', () => {
  const hidden = (object: string, field: string) => ({ object, field, may: 'nothing' });

  it('carries them over where one does not see them either, and nowhere else', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const lead = await newLead({
      email: 'unseen@oxmarrow.example',
      phone: '+441632960321',
      city: 'Oxmarrow',
    });
    const [role] = (await operations.records(ask('role', { field: 'name', is: 'is', value: 'Rep' }))).rows;
    const fields = [
      hidden('lead', 'budget'),
      hidden('lead', 'phone'),
      hidden('contact', 'phone'),
      hidden('lead', 'city'),
      hidden('contact', 'email'),
    ];
    const given = await operations
      .against(role.version, 'patch', `/roles/${role.id}`, { rules: JSON.stringify({ fields }) })
      .expect(200);
    const shown = await preview(lead.id);
    expect(shown.proposal.contact).not.toHaveProperty('email');
    expect(shown.proposal.deal.value).toBe(0);
    const { body } = await rep
      .against(lead.version, 'post', `/leads/${lead.id}/conversion`, chosenFrom(shown))
      .expect(201);
    const { contact, account, deal } = (body as Written<Converted>).value;
    expect(JSON.stringify(body)).not.toContain('60321');
    const whole = async (path: string) =>
      ((await operations.call('get', path).expect(200)).body as { record: AnyRecord }).record;
    expect(await whole(`/contacts/${contact}`)).toMatchObject({
      phone: '+441632960321',
      email: 'unseen@oxmarrow.example',
    });
    // A city that is hidden on the lead alone would be told by the account.
    expect((await whole(`/accounts/${account}`)).city).toBeNull();
    expect((await whole(`/deals/${deal}`)).value).toBe(0);
    await operations.call('post', `/units/${(given.body as Written<unknown>).unit}/undo`).expect(200);
  });
});

describe('converting without seeing contacts or accounts', () => {
  it('finds nobody who may be there already, and says what the lead would become', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const lead = await newLead({ name: 'Tamsin Who Is There', email: 'nobody@oxmarrow.example' });
    const [role] = (await operations.records(ask('role', { field: 'name', is: 'is', value: 'Rep' }))).rows;
    const none = { see: 'none', edit: 'none', add: 'none', delete: 'none', import: 'none', export: 'none' };
    const given = await operations
      .against(role.version, 'patch', `/roles/${role.id}`, {
        rules: JSON.stringify({ reach: { contact: none, account: none } }),
      })
      .expect(200);
    expect(await preview(lead.id)).toMatchObject({
      contacts: [],
      accounts: [],
      proposal: { contact: { name: 'Tamsin Who Is There' } },
    });
    await rep.call('get', '/search?q=Tamsin').expect(200);
    await operations.call('post', `/units/${(given.body as Written<unknown>).unit}/undo`).expect(200);
  });
});

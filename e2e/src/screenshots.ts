import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { openBrowser } from './browser';
import { Person } from './person';
import { startZawn, type ZawnServer } from './zawn-server';

interface View {
  /** Who looks; nobody is signed in when left out. */
  as?: string;
  path?: string;
  /** What has to be there before the picture is taken. */
  shows: string;
  /** What is done on the page first. */
  first?: (person: Person, server: ZawnServer) => Promise<void>;
}

const REP = 'Tamsin Rudd';
const MANAGER = 'Maren Ollerby';
const OPERATIONS = 'Bram Tideswell';

const importFile = [
  'Name;Company;E-Mail;Telephone;Interested in;Source;Budget;Shoe size',
  'Petra Lundeby;Quernhaven Marina;petra.lundeby@quernhaven-marina.example;01632 960 411;waves;Trade fair;24.500,00;39',
  'Jarl Tarnbrook;Rossfleet Pilots;jarl@rossfleet-pilots.example;01632 960 412;telemetry;Website;8000;44',
  'Moira Kessenich;Fenholt Water;moira at fenholt;01632 960 413;water level;Website;;',
  'Ivar Ekvall;Tallnas Marina;ivar.ekvall@tallnas-marina.example;08-465 004 12;waves;Pigeon post;12000;43',
  'Selma Strandvik;Sandskar Pilots;selma@sandskar-pilots.example;08-465 004 13;weather masts;Referral;36000;38',
  'Finbar Ormsgate;Inishcarra Marina;finbar@inishcarra-marina.example;;tide gauges;Referral;lots;45',
].join('\n');

async function chooseImport(person: Person): Promise<void> {
  await person.see('.file-drop');
  await person.giveFile('coast-fair.csv', importFile);
  await person.read('to create', '.import-counts');
  await person.until('rows are counted', async () => !(await person.text('.import-counts')).includes('…'));
}

/** Mails as they come in a week. */
async function sendMails(person: Person, server: ZawnServer): Promise<void> {
  const sending = join(__dirname, '..', '..', 'server', 'dist', 'stand-ins', 'send-samples.js');
  const env = { ...process.env, ZAWN_MAIL_PORT: String(server.mailPort) };
  spawnSync(process.execPath, [sending], { env });
  await person.read('This month in harbours', '.arrivals');
}

const openFirstRow = async (person: Person) => person.clickAt('.table-row');

/** An open lead whose contact or account is on file already. */
const leadWithMatch = (person: Person) =>
  person.driver.executeAsyncScript<number>(`
    const done = arguments[0];
    (async () => {
      const { csrf } = await (await fetch('/api/v1/session')).json();
      const where = { field: 'status', is: 'noneOf', value: ['converted', 'disqualified'] };
      const body = JSON.stringify({ question: { version: 1, object: 'lead', where } });
      const headers = { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf };
      const { rows } = await (await fetch('/api/v1/questions/records', { method: 'POST', headers, body })).json();
      for (const { id } of rows) {
        const { accounts } = await (await fetch('/api/v1/leads/' + id + '/conversion')).json();
        if (accounts[0]?.likeness > 0.9) return done(id);
      }
      done(rows[0].id);
    })();`);

/** Eight conditions in three groups. */
const where = {
  join: 'all',
  of: [
    { field: 'outcome', is: 'anyOf', value: ['open'] },
    { field: 'closeOn', is: 'in', value: { unit: 'fiscalQuarter', offset: 0 } },
    { field: 'stage', is: 'noneOf', value: [2] },
    {
      join: 'any',
      of: [
        { field: 'value', is: 'atLeast', value: 2_500_000 },
        { field: 'account.country', is: 'anyOf', value: ['SE', 'DE'] },
        { field: 'tags', is: 'anyOf', value: ['public tender'] },
      ],
    },
    {
      join: 'none',
      of: [
        { field: 'x_siteVisit', is: 'is', value: false },
        {
          related: 'activity.deal',
          where: { field: 'doneAt', is: 'in', value: { direction: 'last', count: 60, unit: 'day' } },
          is: 'is',
          value: 0,
        },
      ],
    },
  ],
};
const columns = ['name', 'value', 'stage', 'closeOn', 'account.country', 'tags', 'owner'];
const question = {
  question: { version: 1, object: 'deal', where, columns, sort: [{ field: 'closeOn' }] },
  draw: 'table',
};

/** Freezes a report, lets a deal go further, and puts both moments side by side. */
async function freezeAndCompare(person: Person): Promise<void> {
  await person.see('.report-drawing');
  await person.driver.executeAsyncScript(`
    const done = arguments[0];
    (async () => {
      const { csrf } = await (await fetch('/api/v1/session')).json();
      const call = async (method, path, body, more = {}) => {
        const headers = { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf, ...more };
        return (await fetch('/api/v1' + path, { method, headers, body: JSON.stringify(body) })).json();
      };
      const folder = await call('POST', '/folders', { name: 'November 2026', sharing: 'team' });
      const where = { field: 'outcome', is: 'anyOf', value: ['open'] };
      const design = {
        version: 1,
        question: { version: 1, object: 'deal', where, groups: [{ field: 'stage' }] },
        figures: [
          { key: 'deals', label: 'Deals', measure: { as: 'count' } },
          { key: 'value', label: 'Value', measure: { as: 'sum', of: 'value' } },
        ],
        draw: 'funnel',
      };
      const name = 'Open pipeline, 19 Nov 2026';
      const frozen = await call('POST', '/snapshots/freeze', { design, name, folder: folder.value.id, seenBy: 'each' });
      const question = { version: 1, object: 'deal', where, sort: [{ field: 'value', descending: true }] };
      const { rows } = await call('POST', '/questions/records', { question, offset: 0, limit: 3 });
      for (const { id, version } of rows.slice(0, 2))
        await call('PATCH', '/deals/' + id, { closeOn: '2027-02-01', value: 4200000 }, { 'If-Match': '"' + version + '"' });
      const [, , { id, version }] = rows;
      await fetch('/api/v1/deals/' + id, { method: 'DELETE', headers: { 'X-CSRF-Token': csrf, 'If-Match': '"' + version + '"' } });
      done(frozen.value.id);
    })();
  `);
  await person.goTo('/snapshots/1/compare?with=now&p=' + encodeURIComponent('{"keys":[],"figure":"value"}'));
}

/** The main views, each with the state it is shown in. */
const views: Record<string, View> = {
  'sign-in': { shows: '.sign-in-people' },
  today: { as: REP, path: '/', shows: '.work' },
  leads: { as: REP, path: '/leads?view=call-down', shows: '.table-row' },
  lead: { as: REP, path: '/leads', shows: '.timeline', first: openFirstRow },
  convert: {
    as: MANAGER,
    path: '/leads',
    shows: '.convert-reason',
    first: async (person) => {
      await person.see('.table-row');
      const lead = await leadWithMatch(person);
      await person.goTo(`/leads?open=lead-${lead}`);
      await person.click('Convert');
    },
  },
  import: { as: REP, path: '/imports', shows: '.file-row', first: chooseImport },
  duplicates: { as: OPERATIONS, path: '/duplicates?of=contact', shows: '.pairs li' },
  choices: { as: OPERATIONS, path: '/setup/choices?list=leadStatus', shows: '.choices li' },
  setup: { as: OPERATIONS, path: '/setup', shows: '.sections li' },
  scores: { as: OPERATIONS, path: '/setup/scores', shows: '.score-rule-list li' },
  fields: { as: OPERATIONS, path: '/setup/fields?of=account', shows: '.own-fields li' },
  assignment: { as: OPERATIONS, path: '/setup/assignment', shows: '.rule' },
  people: { as: OPERATIONS, path: '/setup/people', shows: '.people-list li' },
  money: { as: OPERATIONS, path: '/setup/organisation', shows: '.rate-table' },
  targets: { as: OPERATIONS, path: '/setup/targets', shows: '.target-table' },
  'own-sign-in': { as: REP, path: '/sign-in', shows: '.own-access' },
  forms: { as: OPERATIONS, path: '/forms', shows: '.forms li' },
  form: { as: OPERATIONS, path: '/forms/1', shows: '.form-preview iframe' },
  'form-sent': { as: OPERATIONS, path: '/forms/1?sent', shows: '.submissions li' },
  website: { path: '/stand-ins/website', shows: 'iframe' },
  mail: { as: OPERATIONS, path: '/setup/mail', shows: '.arrivals li', first: sendMails },
  notices: { as: OPERATIONS, path: '/notices', shows: '.notice-kinds' },
  changes: {
    as: MANAGER,
    path: `/changes?of=${encodeURIComponent(JSON.stringify({ field: 'field', is: 'anyOf', value: ['closeOn'] }))}`,
    shows: '.changes li',
  },
  deals: { as: REP, path: '/deals', shows: '.strip' },
  'team-deals': { as: MANAGER, path: '/deals', shows: '.strip' },
  'deals-table': { as: MANAGER, path: '/deals?as=table', shows: '.table-row' },
  deal: {
    as: REP,
    path: '/deals',
    shows: '.climb-way',
    first: (person) => person.clickAt('.strip-main'),
  },
  account: {
    as: REP,
    path: '/accounts?view=customers',
    shows: '.deals-over-time rect',
    first: openFirstRow,
  },
  question: {
    as: MANAGER,
    path: `/deals?d=${encodeURIComponent(JSON.stringify(question))}`,
    shows: '.table-row',
  },
  grouped: { as: MANAGER, path: '/deals?view=closing', shows: '.group-head' },
  columns: { as: MANAGER, path: '/deals?view=won-by-month', shows: '.bar-segment' },
  pivot: { as: MANAGER, path: '/deals?view=stages-by-owner', shows: '.pivot td' },
  roles: {
    as: OPERATIONS,
    path: '/setup/roles?role=rep',
    shows: '.reach-table',
    first: async (person) => {
      await person.see('[aria-label^="Deals, See"]');
      await person.driver.executeScript(`document.querySelector('[aria-label^="Deals, See"]').focus()`);
      await person.press('4');
      await person.read('→', '.role-foot');
    },
  },
  'activity-board': { as: MANAGER, path: '/activity-board', shows: '.outcome-table' },
  'call-lists': { as: REP, path: '/call-lists', shows: '.empty' },
  week: {
    as: REP,
    path: '/',
    shows: '.week article',
    first: async (person) => {
      await person.see('.work');
      await person.press('w');
    },
  },
  report: {
    as: MANAGER,
    path: '/reports/won-against-last-year',
    shows: '.records-beside .table-row',
    first: (person) => person.clickAt('.report-table tbody tr:nth-child(3) td a'),
  },
  dashboard: { as: MANAGER, path: '/dashboards/the-team', shows: '.tile .bar-segment' },
  meeting: { as: MANAGER, path: '/packs/monthly-meeting/present', shows: '.presented .bar-segment' },
  snapshot: {
    as: MANAGER,
    path: '/reports/pipeline-by-stage',
    shows: '.compared-change a',
    first: freezeAndCompare,
  },
  movement: {
    as: MANAGER,
    path: '/reports/movement',
    shows: '.movement-entries li',
    first: (person) => person.clickAt('.report-table .report-all td:nth-child(5) .link-button'),
  },
  team: { as: MANAGER, path: '/team', shows: '.bar-segment' },
  upkeep: { as: MANAGER, path: '/upkeep', shows: '.upkeep-kinds li' },
  pipelines: { as: OPERATIONS, path: '/setup/pipelines', shows: '.pipeline' },
  'team-today': { as: MANAGER, path: '/', shows: '.work' },
  contacts: { as: REP, path: '/contacts', shows: '.table-row' },
  'go-anywhere': {
    as: REP,
    path: '/',
    shows: '.hit',
    first: async (person) => {
      await person.see('.work');
      await person.press('/');
      await person.press(...'harbuor');
      await person.read('Contact', '.go-anywhere-list');
    },
  },
  done: {
    as: REP,
    path: '/',
    shows: '.done-form',
    first: async (person) => {
      await person.see('.work');
      await person.press('j', 'd');
    },
  },
  keyboard: {
    as: REP,
    path: '/deals',
    shows: '.shortcut-groups',
    first: async (person) => {
      await person.see('.strip');
      await person.press('?');
    },
  },
  'add-deal': {
    as: REP,
    path: '/',
    shows: '.ant-form',
    first: async (person) => {
      await person.see('.work');
      await person.press('c', 'd');
    },
  },
  lose: {
    as: REP,
    path: '/deals',
    shows: '.close-deal',
    first: async (person) => {
      await person.clickAt('.strip-main');
      await person.see('.sheet .climb-levels');
      await person.press('l');
    },
  },
  // The last: the strip stands on every page until it is said what came of the call.
  call: {
    as: REP,
    path: '/contacts',
    shows: '.call-ended',
    first: async (person) => {
      await openFirstRow(person);
      await person.see('.sheet .timeline .entry');
      await person.press('p');
      await person.see('.call-before li');
      await person.until('they have talked', async () => {
        const standing = await person.text('.call-standing');
        if (/0:0[4-9]|0:1/.test(standing) && !standing.startsWith('You')) await person.press('h');
        return (await person.count('.call-ended')) === 1;
      });
      await person.clickAt('.call-ending textarea');
      await person.press(...'At the quay until two');
    },
  },
};

const SHOWN = join(__dirname, '..', '..', 'docs', 'screenshots');
/** Those that the README shows. */
const kept = () => readdirSync(SHOWN).map((file) => file.replace('.png', ''));

async function main(): Promise<void> {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      out: { type: 'string' },
      dark: { type: 'boolean' },
      size: { type: 'string' },
      empty: { type: 'boolean' },
    },
  });
  const [width, height] = (values.size ?? '1280x800').split('x').map(Number);
  const folder = resolve(values.out ?? SHOWN);
  const wanted = positionals.length > 0 ? positionals : kept();
  const unknown = wanted.find((name) => !Object.hasOwn(views, name));
  if (unknown) throw new Error(`There is no view called ${unknown}. Known: ${Object.keys(views).join(', ')}`);
  // In the order of the views: some leave something behind.
  const names = Object.keys(views).filter((name) => wanted.includes(name));
  mkdirSync(folder, { recursive: true });
  const server = await startZawn({ demo: true });
  const { driver, quit } = await openBrowser({ width, height, dark: values.dark });
  try {
    const person = new Person(driver, server.address);
    let signedIn: string | undefined;
    for (const name of names) {
      const { as, path = '/', shows, first } = views[name];
      if (as !== signedIn) {
        await driver.manage().deleteAllCookies();
        if (as) await person.signInAs(as);
        signedIn = as;
      }
      await person.goTo(path);
      await first?.(person, server);
      await person.see(shows);
      await driver.executeAsyncScript('document.fonts.ready.then(() => setTimeout(arguments[0], 250))');
      writeFileSync(join(folder, `${name}.png`), await driver.takeScreenshot(), 'base64');
      process.stdout.write(`${join(folder, `${name}.png`)}\n`);
    }
  } finally {
    await quit();
    await server.stop();
  }
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});

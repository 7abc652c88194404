import { readFileSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { join, resolve } from 'node:path';
import { NestFactory } from '@nestjs/core';
import {
  ask,
  comparedPeriods,
  outcomeQuestion,
  startOfDayIn,
  type Actor,
  type Condition,
  type Question,
  type SubjectKey,
  wordRulesOf,
} from '@zawn/core';
import { AppModule } from '@zawn/server/dist/app.module';
import { openDatabase } from '@zawn/server/dist/platform/database/data-source';
import { Database } from '@zawn/server/dist/platform/database/database';
import { AlikeFinder } from '@zawn/server/dist/features/matching/alike';
import { NightlyJobs } from '@zawn/server/dist/kernel/jobs/nightly-jobs';
import { Organisation } from '@zawn/server/dist/kernel/organisation/organisation';
import { Movements } from '@zawn/server/dist/features/reports/movements';
import { ReportsController } from '@zawn/server/dist/features/reports/reports.controller';
import { Freezer } from '@zawn/server/dist/features/snapshots/freezer';
import { SnapshotsController } from '@zawn/server/dist/features/snapshots/snapshots.controller';
import { DealGridController } from '@zawn/server/dist/features/deals/deal-grid.controller';
import { Gate } from '@zawn/server/dist/kernel/questions/gate';
import { Door } from '@zawn/server/dist/kernel/records/door';
import { fillIndexIfEmpty } from '@zawn/server/dist/kernel/search/fill-index';
import { Search } from '@zawn/server/dist/kernel/search/search';
import { TimelineController } from '@zawn/server/dist/kernel/timeline/timeline.controller';
import { ByHand, reported, sql } from './by-hand';
import { busyAccount, ENTRIES } from './busy-account';
import { importing } from './importing';
import { tableOf, time, timeBoth, type Line } from './measure';
import { plansOf } from './plans';
import { inOrderOfKinds, upkeepByHand, upkeepByZawn } from './upkeep';
import { dashboards, typedQuestion } from './dashboards';
import { lookingBack, moving, readyMade } from './reports';
import { snapshots } from './snapshots';
import { serve } from './served';

const TODAY = '2026-11-19';
const QUARTER = ['2026-10-01', '2027-01-01'] as const;
const FOLDER = resolve(process.env.ZAWN_DATA ?? 'data/bench');
const REPORT = join(__dirname, '..', 'README.md');

/** What the aims allow: so many times the work by hand, and so many milliseconds at the 95th percentile. */
const within = (line: Omit<Line, 'isMet' | 'aim'>, ratio: number | undefined, p95: number): Line => {
  const isFast = line.zawn.p95 <= p95;
  const isClose = ratio === undefined || !line.byHand || line.zawn.median <= ratio * line.byHand.median;
  return {
    ...line,
    aim: `${ratio ? `≤ ${ratio} × by hand, ` : ''}p95 ≤ ${p95} ms`,
    isMet: isFast && isClose,
  };
};

function same(what: string, ours: unknown, theirs: unknown): void {
  if (JSON.stringify(ours) !== JSON.stringify(theirs))
    throw new Error(
      `${what}: the two answers differ:\n${JSON.stringify(ours)?.slice(0, 300)}\n${JSON.stringify(theirs)?.slice(0, 300)}`,
    );
}

async function main(): Promise<void> {
  const config = {
    port: 0,
    address: 'http://localhost',
    dataFolder: FOLDER,
    today: TODAY,
    demo: true,
    reading: 'pooled' as const,
  };
  const connections = await openDatabase(FOLDER);
  // As a start of the server does it, when the index was dropped by a change of its make.
  await fillIndexIfEmpty(connections.writing);
  const app = await NestFactory.createApplicationContext(AppModule.with(config, connections), {
    logger: false,
  });
  // What is done once a night is done first: on a set never opened before, a minute of looking for duplicates.
  await app.get(NightlyJobs).done();
  const hand = new ByHand(connections.file);
  const gate = app.get(Gate);
  const organisation = app.get(Organisation);
  const people = await organisation.people();
  const actorOf = async (name: string) =>
    (await organisation.actor(people.find((each) => each.name === name)?.id ?? 0)) as Actor;
  const operations = await actorOf('Bram Tideswell');
  const manager = await actorOf('Maren Ollerby');
  const rep = await actorOf('Tamsin Rudd');
  const lines: Line[] = [];
  const page = { offset: 0, limit: 50 };

  const any = (field: string, ...value: (string | number)[]): Condition => ({ field, is: 'anyOf', value });
  const closing: Question = {
    ...ask(
      'deal',
      any('outcome', 'open'),
      { field: 'closeOn', is: 'in', value: { unit: 'fiscalQuarter', offset: 0 } },
      { field: 'value', is: 'atLeast', value: 2_500_000 },
    ),
    sort: [{ field: 'closeOn' }],
  };
  const { where } = sql.deals(TODAY);
  const handPage = (more: string, ...parameters: unknown[]) => {
    const rows = hand.all(
      // A row shows its weighted value, its next step and the names behind its links.
      `SELECT d.*, ROUND(d.value * COALESCE(d.probability, s.probability) / 100.0) AS weighted, (SELECT MIN(t.dueOn) FROM activity t WHERE t.deal = d.id AND t.doneAt IS NULL AND t.deletedAt IS NULL) AS nextStepOn, a.name AS accountName, c.name AS contactName, l.name AS leadName FROM deal d JOIN stage s ON s.id = d.stage LEFT JOIN account a ON a.id = d.account LEFT JOIN contact c ON c.id = d.contact LEFT JOIN lead l ON l.id = d.lead WHERE ${where} ${more} ORDER BY d.closeOn, d.id LIMIT 50`,
      ...QUARTER,
      2_500_000,
      ...parameters,
    );
    const { n } = hand.one(
      `SELECT COUNT(*) AS n FROM deal d WHERE ${where} ${more}`,
      ...QUARTER,
      2_500_000,
      ...parameters,
    );
    return { ids: rows.map(({ id }) => id), total: n };
  };
  const ours = async (actor: Actor, question: Question) => {
    const { rows, total } = await gate.records(actor, question, page);
    return { ids: rows.map(({ id }) => id), total };
  };
  const plans: string[] = [];
  const comparePage = async (what: string, actor: Actor, question: Question, byHand: () => unknown) => {
    const work = () => gate.records(actor, question, page);
    same(what, await ours(actor, question), byHand());
    const line = within({ what, ...(await timeBoth(work, byHand, 60)) }, 1.2, 50);
    lines.push(line);
    if (!line.isMet) plans.push(`${what}:\n\n${await plansOf(app.get(Database).reader, hand, work)}`);
  };
  await comparePage(
    'View’s page: open deals closing this quarter over 25,000, by close date, everyone’s',
    operations,
    closing,
    () => handPage(''),
  );
  const team = manager.teamPeople.join(', ');
  await comparePage('The same for a manager’s team', manager, closing, () =>
    handPage(`AND d.owner IN (${team})`),
  );

  const leads: Question = {
    ...ask(
      'lead',
      { field: 'status', is: 'noneOf', value: ['converted', 'disqualified'] },
      any('country', 'GB', 'IE'),
      { field: 'organisation', is: 'contains', value: 'harbour' },
    ),
    sort: [{ field: 'createdAt', descending: true }],
  };
  const leadWhere = `l.deletedAt IS NULL AND l.owner = ? AND l.status NOT IN ('converted', 'disqualified') AND l.country IN ('GB', 'IE') AND l.organisation LIKE '%harbour%'`;
  const handLeads = () => {
    const rows = hand.all(
      `SELECT l.*, a.name AS accountName, c.name AS contactName FROM lead l LEFT JOIN account a ON a.id = l.account LEFT JOIN contact c ON c.id = l.contact WHERE ${leadWhere} ORDER BY l.createdAt DESC, l.id LIMIT 50`,
      rep.personId,
    );
    const { n } = hand.one(`SELECT COUNT(*) AS n FROM lead l WHERE ${leadWhere}`, rep.personId);
    return { ids: rows.map(({ id }) => id), total: n };
  };
  await comparePage(
    'View’s page: a rep’s open leads in two countries with a word in their organisation, newest first',
    rep,
    leads,
    handLeads,
  );

  const byName: Question = { ...ask('contact', any('country', 'GB', 'SE')), sort: [{ field: 'name' }] };
  const nameWhere = `k.deletedAt IS NULL AND k.country IN ('GB', 'SE')`;
  await comparePage(
    'View’s page: contacts of two countries in order of their names',
    operations,
    byName,
    () => ({
      ids: hand
        .all(
          `SELECT k.*, a.name AS accountName FROM contact k LEFT JOIN account a ON a.id = k.account WHERE ${nameWhere} ORDER BY lower(k.name), k.name, k.id LIMIT 50`,
        )
        .map(({ id }) => id),
      total: hand.one(`SELECT COUNT(*) AS n FROM contact k WHERE ${nameWhere}`).n,
    }),
  );

  const stages: Question = {
    ...ask('deal'),
    groups: [{ field: 'stage' }, { field: 'owner' }],
    measures: [{ as: 'count' }, { as: 'sum', of: 'value' }],
  };
  const handStages = () =>
    hand.all(
      `SELECT d.stage, d.owner, COUNT(*) AS n, SUM(${reported('COALESCE(d.closedOn, ?)')}) AS value FROM deal d WHERE d.deletedAt IS NULL GROUP BY d.stage, d.owner`,
      TODAY,
    );
  const asText = (rows: readonly (readonly unknown[])[]) =>
    rows
      .map((row) => row.map((value) => (typeof value === 'number' ? Math.round(value) : value)).join(' '))
      .sort();
  same(
    'Sums by stage and owner',
    asText((await gate.figures(operations, stages)).rows.map(({ keys, figures }) => [...keys, ...figures])),
    asText(handStages().map(({ stage, owner, n, value }) => [stage, owner, n, value])),
  );
  lines.push(
    within(
      {
        what: 'Sums over 200,000 deals by stage and owner',
        ...(await timeBoth(() => gate.figures(operations, stages), handStages, 20)),
      },
      1.1,
      200,
    ),
  );
  const closed: Question = {
    ...ask('deal', any('outcome', 'won', 'lost')),
    groups: [{ field: 'closedOn', by: 'month' }, { field: 'outcome' }],
    measures: [{ as: 'count' }, { as: 'sum', of: 'value' }],
  };
  const handClosed = () => hand.all(sql.closedByMonth);
  same(
    'Sums by month',
    asText((await gate.figures(operations, closed)).rows.map(({ keys, figures }) => [...keys, ...figures])),
    asText(handClosed().map(({ month, outcome, n, value }) => [month, outcome, n, value])),
  );
  lines.push(
    within(
      {
        what: 'Sums of closed deals by month and outcome',
        ...(await timeBoth(() => gate.figures(operations, closed), handClosed, 20)),
      },
      1.1,
      200,
    ),
  );

  const grid = app.get(DealGridController);
  const { id: pipeline } = hand.one('SELECT id FROM pipeline ORDER BY position LIMIT 1');
  const ofGrid = (actor: Actor) => () => grid.grid(actor, { pipeline: Number(pipeline), each: 3, more: [] });
  const handGrid = () =>
    hand.one(
      `SELECT COUNT(*) AS n, SUM(${reported(`'${TODAY}'`)}) AS value FROM deal d WHERE d.deletedAt IS NULL AND d.outcome = 'open' AND d.pipeline = ?`,
      pipeline,
    );
  const { cells } = await ofGrid(operations)();
  const { n, value } = handGrid();
  same(
    'The deal grid',
    [cells.reduce((sum, cell) => sum + cell.count, 0), cells.reduce((sum, cell) => sum + cell.value, 0)],
    [n, value],
  );
  for (const [who, actor] of [
    ['everyone’s', operations],
    ['a manager’s', manager],
    ['a rep’s', rep],
  ] as const)
    lines.push(
      within(
        {
          what: `The deal grid of all open deals of a pipeline, ${who}: sums of every cell, first strips`,
          zawn: await time(ofGrid(actor), 20),
          byHand: undefined,
        },
        undefined,
        300,
      ),
    );

  for (const [who, actor, owners] of [
    ['everyone’s', operations, undefined],
    ['a manager’s team', manager, manager.teamPeople],
    ['a rep’s own', rep, [rep.personId]],
  ] as const) {
    const byHand = () => upkeepByHand(hand, TODAY, owners);
    const byZawn = () => upkeepByZawn(gate, actor, owners);
    const what = `Upkeep: ${who} records counted by what is missing`;
    same(what, inOrderOfKinds(await byZawn()), inOrderOfKinds(byHand()));
    lines.push(within({ what, ...(await timeBoth(byZawn, byHand, 30)) }, 1.3, 300));
  }

  const compared = comparedPeriods('fiscalYear', -1, TODAY, { fiscalYearStart: 4, weekStart: 1 });
  for (const [who, actor, owners] of [
    ['everyone’s', operations, undefined],
    ['a manager’s team', manager, manager.teamPeople],
  ] as const) {
    const whose = owners && any('owner', ...owners);
    const asked = [compared.now, compared.before].map((period) => outcomeQuestion('call', period, whose));
    const byZawn = () => Promise.all(asked.map((question) => gate.figures(actor, question)));
    const byHand = () =>
      [compared.now, compared.before].map(({ from, to }) =>
        hand.all(
          `SELECT t.owner, t.outcome, COUNT(*) AS n FROM activity t WHERE t.deletedAt IS NULL AND t.kind = 'call' AND t.doneAt >= ? AND t.doneAt < ?${owners ? ` AND t.owner IN (${owners.join(', ')})` : ''} GROUP BY t.owner, t.outcome`,
          startOfDayIn('Europe/London', from),
          startOfDayIn('Europe/London', to),
        ),
      );
    const what = `The outcome table over 2,000,000 activities, ${who}: calls of a year and the year before`;
    same(
      what,
      (await byZawn()).map(({ rows }) => asText(rows.map(({ keys, figures }) => [...keys, ...figures]))),
      byHand().map((rows) => asText(rows.map(({ owner, outcome, n }) => [owner, outcome, n]))),
    );
    lines.push(within({ what, ...(await timeBoth(byZawn, byHand, 20)) }, 1.3, 300));
  }

  lines.push(within(await lookingBack(gate, hand, operations, same), 1.3, 500));
  const reports = app.get(ReportsController);
  for (const line of await readyMade(reports, operations, hand, same))
    lines.push(within(line, line.byHand && 1.3, 500));
  lines.push(within(await moving(app.get(Movements), operations), undefined, 500));
  const [teams, settings] = [await organisation.teams(), await organisation.settings()];
  const { catalogue: all, today: now } = await gate.context(operations);
  const [complete, turned] = await dashboards(reports, app.get(Movements), operations, {
    catalogue: all,
    teams,
  });
  lines.push(within(complete, undefined, 1500), within(turned, undefined, 1000));
  const words = { pipelines: [], stages: [], lists: [], views: [], rules: wordRulesOf(settings) };
  const vocabulary = {
    catalogue: all,
    today: now,
    calendar: settings,
    currency: settings.currency,
    people,
    teams,
    ...words,
  };
  lines.push(within(await typedQuestion(vocabulary), undefined, 5));
  const services = {
    gate,
    door: app.get(Door),
    freezer: app.get(Freezer),
    snapshots: app.get(SnapshotsController),
  };
  const { freeze, opened } = await snapshots(services, operations, manager);
  lines.push(within(freeze, undefined, 2000));
  for (const line of opened) lines.push(within(line, undefined, 100));

  const day: Question = {
    ...ask(
      'activity',
      { field: 'doneAt', is: 'isEmpty' },
      { field: 'dueOn', is: 'before', value: { days: 8 } },
    ),
    sort: [{ field: 'dueOn' }],
    columns: ['deal.outcome', 'deal.tryAgainOn'],
  };
  const ofDay = () => gate.records(operations, day, { offset: 0, limit: 400 });
  same('Today', (await ofDay()).rows.length, 400);
  lines.push(
    within(
      { what: 'Today with 400 open lines', zawn: await time(ofDay, 40), byHand: undefined },
      undefined,
      50,
    ),
  );

  const search = app.get(Search);
  const typed = [
    'se',
    'sea',
    'seag',
    'seagrave',
    'seagrave ha',
    'seagrave harbour',
    'tarn',
    'tarnwick p',
    'runa',
    'runa sea',
    '01632 9600',
    'D-1500',
    'seagrvae',
    'harbuor trust',
    'marina 12',
    'wave station',
    'odile',
    'pilots',
    'quay water',
    'ma',
    'call back',
    'prices for gauges',
  ];
  for (const [who, actor] of [
    ['everyone’s', operations],
    ['a rep’s own', rep],
  ] as const) {
    lines.push(
      within(
        {
          what: `Search as you type, ${who}`,
          zawn: await time((round) => search.find(actor, typed[round % typed.length]), 120),
          byHand: undefined,
        },
        undefined,
        20,
      ),
    );
  }

  const alike = app.get(AlikeFinder);
  const someone = hand
    .all('SELECT name, organisation, email FROM lead WHERE id % 1009 = 0 LIMIT 60')
    .map((row) => row as Record<string, string | null>);
  lines.push(
    within(
      {
        what: 'Whom a new lead may be, among everyone’s leads, contacts and accounts',
        zawn: await time((round) => alike.to(operations, someone[round % someone.length]), 60),
        byHand: undefined,
      },
      undefined,
      100,
    ),
  );

  const timelines = app.get(TimelineController);
  const opening = async (what: string, object: SubjectKey, ids: readonly number[]) => {
    const zawn = await time(async (round) => {
      const id = ids[round % ids.length];
      await Promise.all([
        gate.find(operations, object, id),
        timelines.page(operations, object, id, { before: '9999' }),
      ]);
    }, 100);
    lines.push(within({ what, zawn, byHand: undefined }, undefined, 30));
  };
  for (const object of ['deal', 'account', 'contact', 'lead'] as const) {
    const some = hand.all(`SELECT id FROM "${object}" WHERE id % 497 = 0 LIMIT 100`);
    const what = `Open ${object === 'account' ? 'an' : 'a'} ${object} with its first timeline page`;
    await opening(
      what,
      object,
      some.map(({ id }) => Number(id)),
    );
  }
  await opening(`The same of an account with ${ENTRIES.toLocaleString('en')} entries`, 'account', [
    await busyAccount(app, operations, TODAY),
  ]);
  hand.close();
  await app.close();

  const server = await serve(FOLDER, TODAY, 4791);
  await new Promise((settled) => setTimeout(settled, 3000));
  const { all: memoryMb } = server.memory();
  await server.stop();
  const imported = await importing(FOLDER, TODAY);
  const counts = new ByHand(connections.file);
  const size = ['lead', 'account', 'contact', 'deal', 'activity'].map((table) => {
    const { n } = counts.one(`SELECT COUNT(*) AS n FROM "${table}"`);
    return `${Number(n).toLocaleString('en')} ${table === 'activity' ? 'activities' : `${table}s`}`;
  });
  counts.close();
  const { seconds, byHandSeconds, peakMb } = imported;
  const importLine = `An import of 100,000 leads with matching and change log, from the button to the report: ${seconds.toFixed(1)} s (aim ≤ 30), ${(seconds / byHandSeconds).toFixed(1)} times the ${byHandSeconds.toFixed(1)} s of a bare insert of the same rows (aim ≤ 4); the server held ${peakMb} MB of its own at most (aim ≤ 400).`;
  const report = `# Measurements

Made by \`npm run bench\` on ${cpus().length} cores and ${Math.round(totalmem() / 2 ** 30)} GB of memory, over ${size.join(', ')}.
By hand is the same work against the same file with plain SQL, in the same run; the bench stops when the two answers differ.

${tableOf(lines)}

The server, idle on the large set: ready after ${server.readyMs} ms (aim ≤ 2,000), ${memoryMb} MB (aim ≤ 150).

${importLine}

## Plans of what is missed

${plans.join('\n\n') || (lines.every(({ isMet }) => isMet) ? 'Nothing is missed.' : 'What is missed above is not a page of a view, so no plan of it is kept.')}
`;
  const notes = /\n## Notes[\s\S]*$/.exec(readExisting());
  writeFileSync(REPORT, report + (notes?.[0] ?? ''));
  process.stdout.write(
    `${tableOf(lines)}\n\nThe server: ready after ${server.readyMs} ms, ${memoryMb} MB. ${importLine}\n`,
  );
}

function readExisting(): string {
  try {
    return readFileSync(REPORT, 'utf8');
  } catch {
    return '';
  }
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`);
  process.exit(1);
});

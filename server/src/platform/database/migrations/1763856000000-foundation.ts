import {
  Table,
  TableIndex,
  type MigrationInterface,
  type QueryRunner,
  type TableColumnOptions,
} from 'typeorm';
import { dialect } from '../dialect';
import { head, id, integer, links, money, optional, text, texts, yesNo } from './columns';

/** Tables in an order in which each refers only to those before it (and to itself). */
const tables: Record<string, { columns: TableColumnOptions[]; refersTo?: Record<string, string> }> = {
  team: { columns: [...head, text('name'), ...links('parent')], refersTo: { parent: 'team' } },
  person: {
    columns: [
      ...head,
      text('name'),
      text('email'),
      text('role'),
      ...texts('jobTitle'),
      ...links('team'),
      yesNo('active'),
    ],
    refersTo: { team: 'team' },
  },
  pipeline: { columns: [...head, text('name'), integer('position')] },
  stage: {
    columns: [
      ...head,
      text('name'),
      integer('pipeline'),
      integer('position'),
      integer('probability'),
      integer('usualDays'),
    ],
    refersTo: { pipeline: 'pipeline' },
  },
  target: {
    columns: [...head, integer('owner'), text('startsOn'), money('amount'), text('currency')],
    refersTo: { owner: 'person' },
  },
  account: {
    columns: [
      ...head,
      text('name'),
      ...texts('domain', 'industry', 'phone', 'street', 'postcode', 'city', 'country'),
      ...links('parent'),
      ...texts('relationship', 'description'),
      integer('owner'),
    ],
    refersTo: { parent: 'account', owner: 'person' },
  },
  contact: {
    columns: [
      ...head,
      text('name'),
      ...texts('role'),
      ...links('account'),
      ...texts('email', 'phone', 'mobile', 'city', 'country', 'relationship', 'description'),
      integer('owner'),
    ],
    refersTo: { account: 'account', owner: 'person' },
  },
  deal: {
    columns: [
      ...head,
      text('name'),
      ...texts('number'),
      ...links('account', 'contact'),
      integer('pipeline'),
      integer('stage'),
      money('value'),
      text('currency'),
      ...links('probability'),
      text('closeOn'),
      ...texts('source', 'competitors', 'description'),
      integer('owner'),
      text('outcome'),
      ...texts('closedOn', 'wonBecause', 'lossReason', 'lossComment', 'lostTo', 'tryAgainOn'),
      ...links('lead'),
      text('stageSince'),
    ],
    refersTo: {
      account: 'account',
      contact: 'contact',
      pipeline: 'pipeline',
      stage: 'stage',
      owner: 'person',
    },
  },
  lead: {
    columns: [
      ...head,
      text('name'),
      ...texts('organisation', 'role', 'email', 'phone', 'web', 'city', 'country'),
      text('status'),
      ...texts('source', 'campaign', 'interest'),
      optional(money('budget')),
      ...texts('currency', 'timeFrame', 'description'),
      integer('owner'),
      ...texts('convertedAt'),
      ...links('contact', 'account', 'deal'),
    ],
    refersTo: { owner: 'person', contact: 'contact', account: 'account', deal: 'deal' },
  },
  activity: {
    columns: [
      ...head,
      text('name'),
      text('kind'),
      text('dueOn'),
      ...texts('dueAt', 'priority', 'description'),
      integer('owner'),
      ...links('lead', 'contact', 'account', 'deal'),
      ...texts('outcome'),
      ...links('minutes'),
      ...texts('doneAt'),
      ...links('doneBy'),
      ...texts('result'),
    ],
    refersTo: {
      owner: 'person',
      lead: 'lead',
      contact: 'contact',
      account: 'account',
      deal: 'deal',
      doneBy: 'person',
    },
  },
  note: {
    columns: [...head, text('body'), integer('owner'), ...links('lead', 'contact', 'account', 'deal')],
    refersTo: { owner: 'person', lead: 'lead', contact: 'contact', account: 'account', deal: 'deal' },
  },
  organisation: {
    columns: [
      id,
      text('name'),
      text('currency'),
      integer('fiscalYearStart'),
      integer('weekStart'),
      text('timeZone'),
      text('country'),
      integer('version'),
    ],
  },
  credential: {
    columns: [{ name: 'person', type: 'integer', isPrimary: true }, text('hash')],
    refersTo: { person: 'person' },
  },
  session: {
    columns: [
      { name: 'tokenHash', type: 'text', isPrimary: true },
      integer('person'),
      text('csrf'),
      text('createdAt'),
      text('expiresAt'),
    ],
    refersTo: { person: 'person' },
  },
  rate: { columns: [id, text('currency'), text('validFrom'), { name: 'rate', type: 'double' }] },
  unit: {
    columns: [
      id,
      text('at'),
      ...links('person'),
      text('through'),
      text('label'),
      ...links('undoneBy'),
      ...texts('idempotencyKey', 'answer'),
    ],
  },
  change: {
    columns: [
      id,
      integer('unit'),
      text('at'),
      ...links('person'),
      text('through'),
      text('object'),
      integer('record'),
      text('kind'),
      ...texts('field', 'old', 'new'),
    ],
    refersTo: { unit: 'unit' },
  },
  stay: {
    columns: [
      id,
      integer('deal'),
      integer('stage'),
      text('enteredAt'),
      ...texts('leftAt'),
      ...links('person'),
      text('through'),
      ...links('unit', 'leftUnit'),
    ],
    refersTo: { deal: 'deal', stage: 'stage' },
  },
  import: {
    columns: [
      id,
      text('at'),
      integer('person'),
      text('object'),
      text('fileName'),
      integer('unit'),
      integer('created'),
      integer('skipped'),
      integer('refused'),
      text('refusedFile'),
    ],
    refersTo: { person: 'person', unit: 'unit' },
  },
};

/** The columns that lists, sheets and figures look records up by. */
const indexes: [table: string, columns: string[], unique?: 'unique'][] = [
  ['person', ['email'], 'unique'],
  ['stage', ['pipeline', 'position']],
  ['target', ['owner', 'startsOn']],
  ['account', ['owner', 'name']],
  ['account', ['domain']],
  ['contact', ['owner', 'name']],
  ['contact', ['account']],
  ['contact', ['email']],
  ['deal', ['owner', 'outcome', 'closeOn']],
  ['deal', ['outcome', 'closedOn']],
  ['deal', ['account']],
  ['deal', ['contact']],
  ['deal', ['number'], 'unique'],
  ['lead', ['owner', 'status']],
  ['lead', ['email']],
  ['lead', ['contact']],
  ['lead', ['account']],
  ['lead', ['deal']],
  ['activity', ['owner', 'doneAt', 'dueOn']],
  ...(['lead', 'contact', 'account', 'deal'] as const).flatMap((subject) => [
    ['activity', [subject, 'doneAt', 'dueOn']] as [string, string[]],
    ['note', [subject]] as [string, string[]],
  ]),
  ['session', ['person']],
  ['rate', ['currency', 'validFrom'], 'unique'],
  ['unit', ['person', 'idempotencyKey'], 'unique'],
  ['change', ['object', 'record', 'id']],
  ['change', ['unit']],
  ['stay', ['deal', 'enteredAt']],
  ['stay', ['stage', 'enteredAt']],
];

export class Foundation1763856000000 implements MigrationInterface {
  name = 'Foundation1763856000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, { columns, refersTo = {} }] of Object.entries(tables)) {
      const foreignKeys = Object.entries(refersTo).map(([from, referencedTableName]) => ({
        columnNames: [from],
        referencedTableName,
        referencedColumnNames: ['id'],
      }));
      await runner.createTable(new Table({ name, columns, foreignKeys }));
    }
    for (const [table, columnNames, unique] of indexes) {
      const name = ['by', table, ...columnNames].join('_');
      await runner.createIndex(table, new TableIndex({ name, columnNames, isUnique: unique === 'unique' }));
    }
    await runner.query(dialect.fullText.create);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(dialect.fullText.drop);
    for (const name of Object.keys(tables).reverse()) await runner.dropTable(name);
  }
}

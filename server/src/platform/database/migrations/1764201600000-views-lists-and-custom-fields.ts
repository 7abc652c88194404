import {
  Table,
  TableColumn,
  TableIndex,
  type MigrationInterface,
  type QueryRunner,
  type TableColumnOptions,
} from 'typeorm';
import { dialect } from '../dialect';
import { head, id, integer, links, optional, text, texts, yesNo } from './columns';

const tables: Record<string, { columns: TableColumnOptions[] }> = {
  view: {
    columns: [
      ...head,
      text('name'),
      text('object'),
      text('design'),
      text('sharing'),
      ...links('team'),
      integer('owner'),
    ],
  },
  list: {
    columns: [...head, text('name'), text('object'), text('sharing'), ...links('team'), integer('owner')],
  },
  customField: {
    columns: [
      ...head,
      text('object'),
      text('key'),
      text('label'),
      text('type'),
      ...texts('choices', 'to'),
      yesNo('required'),
      ...texts('help', 'section'),
      integer('position'),
      yesNo('retired'),
    ],
  },
  listMember: {
    columns: [
      { ...integer('list'), isPrimary: true },
      { ...integer('record'), isPrimary: true },
    ],
  },
  preference: {
    columns: [{ ...integer('person'), isPrimary: true }, { ...text('name'), isPrimary: true }, text('value')],
  },
  job: {
    columns: [
      id,
      integer('person'),
      text('kind'),
      text('label'),
      text('state'),
      text('request'),
      integer('done'),
      integer('total'),
      ...links('unit'),
      integer('changed'),
      integer('refused'),
      text('refusals'),
    ],
  },
};

const tagged = ['lead', 'contact', 'account', 'deal'];
const withCustomFields = [...tagged, 'activity'];

/** What deals are grouped, summed and narrowed by: figures read this narrow copy instead of the whole records. */
const dealFigures = [
  ...['stage', 'owner', 'outcome', 'pipeline', 'source', 'lossReason', 'closeOn', 'closedOn', 'createdAt'],
  ...['currency', 'value', 'probability', 'deletedAt'],
];

const indexes: [table: string, columns: string[], unique?: 'unique'][] = [
  ['view', ['object']],
  ['list', ['object']],
  ['customField', ['object', 'key'], 'unique'],
  ['listMember', ['record', 'list']],
  ['job', ['state']],
  // What lists are ordered by when a person's reach is everyone's.
  ['deal', ['outcome', 'closeOn']],
  ['deal', dealFigures],
  ['lead', ['createdAt']],
  ['lead', ['status', 'createdAt']],
  ['activity', ['dueOn']],
  ['activity', ['owner', 'dueOn']],
  ...withCustomFields.map((table): [string, string[]] => [table, ['deletedAt']]),
];

const nameOf = (table: string, columns: readonly string[]) =>
  columns === dealFigures ? 'by_deal_figures' : ['by', table, ...columns].join('_');

/** Views, lists, custom fields, tags, jobs, and an index that search can hold to a person's reach. */
export class ViewsListsAndCustomFields1764201600000 implements MigrationInterface {
  name = 'Finding1764201600000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, options] of Object.entries(tables))
      await runner.createTable(new Table({ ...options, name }));
    for (const table of tagged) await runner.addColumn(table, new TableColumn(optional(text('tags'))));
    for (const table of withCustomFields)
      await runner.addColumn(table, new TableColumn(optional(text('custom'))));
    for (const [table, columnNames, unique] of indexes) {
      const options = { name: nameOf(table, columnNames), columnNames, isUnique: unique === 'unique' };
      await runner.createIndex(table, new TableIndex(options));
    }
    for (const statement of dialect.nameIndexes.create) await runner.query(statement);
    for (const statement of dialect.fullText.widen) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.fullText.narrow) await runner.query(statement);
    for (const [table, columnNames] of indexes)
      if (!(table in tables)) await runner.dropIndex(table, nameOf(table, columnNames));
    for (const table of withCustomFields) await runner.dropColumn(table, 'custom');
    for (const table of tagged) await runner.dropColumn(table, 'tags');
    for (const name of Object.keys(tables).reverse()) await runner.dropTable(name);
  }
}

import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, id, integer, links, text, texts, yesNo } from './columns';

const goesTo = [text('to'), ...links('person')];
const subjects = ['lead', 'contact', 'account', 'deal'];

const tables = {
  form: [...head, text('name'), text('slug'), text('design'), ...goesTo, yesNo('active')],
  submission: [
    id,
    integer('form'),
    text('at'),
    text('state'),
    ...texts('why'),
    text('typed'),
    text('origin'),
    ...texts('consent'),
    ...links('lead'),
    text('key'),
  ],
  captureAddress: [...head, text('name'), text('address'), ...goesTo, ...texts('source'), yesNo('active')],
  mail: [
    ...head,
    text('subject'),
    text('direction'),
    text('sender'),
    ...texts('senderName', 'recipients'),
    text('sentAt'),
    ...texts('body', 'attachments'),
    text('messageId'),
    text('thread'),
    integer('owner'),
    ...links(...subjects),
  ],
  arrival: [
    id,
    text('at'),
    text('messageId'),
    text('sender'),
    text('subject'),
    ...texts('address'),
    text('fate'),
    ...texts('why'),
    text('file'),
    ...links('mail', 'lead'),
  ],
  mailCopy: [id, integer('person'), text('at'), text('subject'), text('text'), integer('tries')],
  delivered: [id, text('at'), text('recipient'), text('sender'), text('subject'), text('text')],
  secret: [{ ...text('name'), isPrimary: true }, text('value')],
};

const indexes: [table: string, columns: string[], unique?: 'unique'][] = [
  ['submission', ['form', 'id']],
  ['submission', ['lead']],
  ['submission', ['key'], 'unique'],
  ['mail', ['messageId']],
  ['mail', ['owner']],
  ...subjects.map((subject) => ['mail', [subject, 'sentAt']] as [string, string[]]),
  ['arrival', ['messageId'], 'unique'],
  ['delivered', ['recipient', 'id']],
];

/** Ways in from outside: web forms with what was sent through them, and mail to capture addresses. */
export class FormsAndCaptureAddresses1765238400000 implements MigrationInterface {
  name = 'Capturing1765238400000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, columns] of Object.entries(tables))
      await runner.createTable(new Table({ name, columns }));
    for (const [table, columnNames, unique] of indexes) {
      const name = ['by', table, ...columnNames].join('_');
      await runner.createIndex(table, new TableIndex({ name, columnNames, isUnique: unique === 'unique' }));
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(tables).reverse()) await runner.dropTable(name);
  }
}

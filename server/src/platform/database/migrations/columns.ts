import { type TableColumnOptions } from 'typeorm';

const column = (type: string) => (name: string) => ({ name, type }) as TableColumnOptions;
export const text = column('text');
export const integer = column('integer');
export const money = column('bigint');
export const yesNo = column('boolean');
export const optional = (options: TableColumnOptions): TableColumnOptions => ({
  ...options,
  isNullable: true,
});
export const id: TableColumnOptions = {
  name: 'id',
  type: 'integer',
  isPrimary: true,
  isGenerated: true,
  generationStrategy: 'increment',
};

/** What every record carries beside its own fields. */
export const head = [
  id,
  integer('version'),
  text('createdAt'),
  optional(integer('createdBy')),
  text('updatedAt'),
  optional(text('deletedAt')),
];
export const texts = (...names: string[]) => names.map((name) => optional(text(name)));
export const links = (...names: string[]) => names.map((name) => optional(integer(name)));

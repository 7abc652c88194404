import { type TableHead } from '@zawn/core';
import { type ImportSetup, type Refusal } from '@zawn/core/imports';
import { Segmented } from 'antd';
import { counted } from '../../platform/frame/format';
import { Option } from './option';

interface Props {
  table: TableHead;
  setup: ImportSetup;
  /** Cells that cannot be read, whether they keep their row out or not. */
  troubles: readonly Refusal[];
  change: (change: Partial<ImportSetup>) => void;
}

/** For each column with cells that cannot be read: whether they are left empty, or their rows stay out. */
export function BadCells({ table, setup, troubles, change }: Props) {
  const columns = new Map<number, { count: number; isOut: boolean }>();
  for (const { column, isLeftEmpty } of troubles) {
    if (column === null || setup.columns[column] === null) continue;
    const each = columns.get(column) ?? { count: 0, isOut: false };
    each.count += 1;
    each.isOut ||= !isLeftEmpty;
    columns.set(column, each);
  }
  return [...columns].map(([column, { count, isOut }]) => {
    const path = setup.columns[column] as string;
    return (
      <Option key={column} label={`${table.headings[column]}: ${counted(count, 'cell')} cannot be read`}>
        <Segmented<'empty' | 'refuse'>
          size="small"
          block
          value={setup.bad?.[path] ?? (isOut ? 'refuse' : 'empty')}
          onChange={(what) => change({ bad: { ...setup.bad, [path]: what } })}
          options={[
            { value: 'empty', label: 'leave it empty' },
            { value: 'refuse', label: 'refuse the row' },
          ]}
        />
      </Option>
    );
  });
}

import { useInfiniteQuery } from '@tanstack/react-query';
import { objectType, type Sort, type SubjectKey } from '@zawn/core';
import { Button, Segmented } from 'antd';
import { Plus, X } from 'lucide-react';
import { type ReactNode } from 'react';
import { recordPages } from '../api/queries';
import { useAdd } from '../frame/adding';
import { number } from '../frame/format';
import { Empty } from '../frame/states';
import { useListQuestion, type Preset } from '../questions/use-list-question';
import { useWording } from '../questions/use-wording';
import { RecordTable, type Column } from './record-table';
import './list-page.css';

interface Props {
  object: SubjectKey;
  columns: readonly Column[];
  presets: readonly Preset[];
  sort: Sort;
  /** What would be here, for an organisation that has none yet. */
  empty: string;
  tools?: ReactNode;
}

/** A list of one object: its name and count set largest, the part shown, and the table. */
export function ListPage({ object, columns, presets, sort, empty, tools }: Props) {
  const { question, asked, preset, choosePart, sortBy } = useListQuestion(object, presets, sort);
  const { data } = useInfiniteQuery(recordPages(question));
  const words = useWording();
  const add = useAdd();
  const { label, plural } = objectType(object);
  const total = data?.pages[0].total;
  return (
    <>
      <header className="page-head">
        <h1>{plural}</h1>
        {total !== undefined && <span className="page-count">{number(total)}</span>}
        <div className="page-tools">
          {!asked && presets.length > 1 && (
            <Segmented
              value={preset.key}
              options={presets.map((each) => ({ value: each.key, label: each.label }))}
              onChange={choosePart}
              aria-label="Part of the list"
            />
          )}
          {tools}
          <Button type="primary" icon={<Plus size={15} />} onClick={() => add(object)}>
            {label}
          </Button>
        </div>
        {asked && (
          <p className="asked">
            {words(question)}
            <button type="button" className="link-button" onClick={() => choosePart(presets[0].key)}>
              <X size={13} aria-hidden /> Show all {plural.toLowerCase()}
            </button>
          </p>
        )}
      </header>
      <RecordTable
        question={question}
        columns={columns}
        onSort={sortBy}
        empty={
          <Empty title={asked || preset.where ? `No ${plural.toLowerCase()} in this part.` : empty}>
            <Button onClick={() => add(object)}>Add a {label.toLowerCase()}</Button>
          </Empty>
        }
      />
    </>
  );
}

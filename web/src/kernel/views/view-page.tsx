import {
  aRecord,
  completeQuestion,
  isCustomisable,
  objectType,
  type AnyRecord,
  type Design,
  type Names,
  type ObjectKey,
} from '@zawn/core';
import { Button } from 'antd';
import { Link } from 'react-router';
import { Plus } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { noMarks, selectionOf } from '../records/marks';
import { Drawing } from '../drawings/drawing';
import { useAdd, type Addable } from '../shell/adding';
import { counted, number } from '../../platform/frame/format';
import { Empty } from '../../platform/frame/states';
import { useWording } from '../questions/use-wording';
import { RecordTable, rowsQuestion } from '../records/record-table';
import { useRows } from '../records/use-rows';
import { Sentence } from '../sentence/sentence';
import { useSession } from '../../platform/sessions/session';
import { useBrought } from '../shell/feature';
import { useAdditions } from '../shell/use-additions';
import { ColumnsPanel } from './columns-panel';
import { Combine } from './combine';
import { ExportMenu } from './export-menu';
import { useDesign } from './use-design';
import { ViewActions } from './view-actions';
import { ViewPicker } from './view-picker';
import './views.css';

interface Props {
  object: ObjectKey & Addable;
  /** What would be here, for an organisation that has none yet. */
  empty: string;
  tools?: ReactNode;
  show?: Partial<Record<string, (record: AnyRecord) => ReactNode>>;
  /** Draws what only this object has a drawing for. */
  grid?: (design: Design, onTotal: (total: number | undefined) => void) => ReactNode;
}

const NO_NAMES: Names = {};

/** A view of one object: its name set largest, the sentence that asks for it, and the answer below. */
export function ViewPage({ object, empty, tools, show, grid }: Props) {
  const shown = useDesign(object);
  const { base, design, change } = shown;
  const { policy, catalogue } = useSession();
  const add = useAdd();
  const MarkedRows = useBrought('MarkedRows');
  const additions = useAdditions();
  const [marks, setMarks] = useState(noMarks);
  const [gridTotal, setGridTotal] = useState<number>();
  const { label, plural, path } = objectType(object);
  const asked = useMemo(() => rowsQuestion(design, catalogue), [design, catalogue]);
  // Marks are of one answer; another question begins without any.
  const condition = JSON.stringify(asked.where ?? null);
  const [markedFor, setMarkedFor] = useState(condition);
  if (markedFor !== condition) {
    setMarkedFor(condition);
    setMarks(noMarks);
  }
  const rows = useRows(asked);
  const wording = useWording(rows.names ?? NO_NAMES);
  // What stood then is only looked at.
  const isGrid = design.draw === 'grid' && grid !== undefined && asked.asOf === undefined;
  // What is counted is what is shown: the grid holds the open deals of one pipeline.
  const total = isGrid ? gridTotal : rows.total;
  const isTable = design.draw === 'table' || (design.draw === 'grid' && !isGrid);
  const isOwnList =
    base.kind === 'list' && isCustomisable(object) && policy.mayChangeShared('list', base.list);
  const canAdd = policy.allows(object, 'add');
  const nothing = (
    <Empty title={design.question.where ? `No ${plural.toLowerCase()} match this.` : empty}>
      {canAdd && <Button onClick={() => add(object)}>Add {aRecord(object)}</Button>}
      {policy.allows(object, 'import') && (
        <Link to="/imports">Bring in a file of {plural.toLowerCase()}</Link>
      )}
    </Empty>
  );
  // Not without the conditions that are unfinished: what is done to all that match must not be done to more.
  const meant = { ...asked, ...(design.question.where ? { where: design.question.where } : {}) };
  const complete = { ...design, question: completeQuestion(catalogue, design.question) };
  return (
    <>
      <header className="page-head view-head">
        <ViewPicker object={object} name={base.kind === 'unsaved' ? plural : base.name} path={path} />
        {total !== undefined && (
          <span className="page-count" role="status">
            {isGrid
              ? `${number(total)} open in the grid`
              : counted(total, label.toLowerCase(), plural.toLowerCase())}
            {shown.isChanged && base.kind !== 'unsaved' && ', changed'}
            {base.kind === 'unsaved' && ', not saved'}
          </span>
        )}
        <div className="page-tools">
          {isTable && <ColumnsPanel design={design} onChange={change} />}
          {policy.allows(object, 'export') && <ExportMenu design={design} />}
          {tools}
          {canAdd && (
            <Button type="primary" icon={<Plus size={15} />} onClick={() => add(object)}>
              {additions.find((each) => each.object === object)?.label ?? label}
            </Button>
          )}
          <ViewActions shown={shown} />
        </div>
      </header>
      {base.kind === 'gone' && (
        <p className="left-out view-gone">
          It was deleted, or is not shared with you. Here is everything instead: {number(rows.total ?? 0)}{' '}
          {plural.toLowerCase()}.
        </p>
      )}
      <Sentence
        design={design}
        onChange={change}
        wording={wording}
        leftOut={rows.leftOut}
        typed="here"
        tools={<Combine design={design} onChange={change} />}
      />
      {isGrid ? (
        grid(complete, setGridTotal)
      ) : isTable ? (
        <RecordTable
          design={design}
          onChange={change}
          rows={rows}
          wording={wording}
          marks={marks}
          setMarks={setMarks}
          empty={nothing}
          show={show}
        />
      ) : (
        <Drawing design={design} wording={wording} empty={nothing} />
      )}
      {isTable &&
        asked.asOf === undefined &&
        MarkedRows.map((Bar, index) => (
          <Bar
            key={index}
            object={object}
            question={meant}
            total={rows.total ?? 0}
            marks={marks}
            setMarks={setMarks}
            {...(isOwnList ? { list: base.list } : {})}
            exportMarked={<ExportMenu design={complete} selection={selectionOf(marks, meant)} size="small" />}
          />
        ))}
    </>
  );
}

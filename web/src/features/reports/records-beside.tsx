import { isCustomisable, objectType, tableOf, type Design, type Names, type Question } from '@zawn/core';
import { X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { listAddress } from '../../kernel/questions/list-address';
import { useWording } from '../../kernel/questions/use-wording';
import { noMarks } from '../../kernel/records/marks';
import { RecordTable, rowsQuestion } from '../../kernel/records/record-table';
import { useRows } from '../../kernel/records/use-rows';
import { counted } from '../../platform/frame/format';
import { Empty } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';

const NO_NAMES: Names = {};

/** The records behind a figure, beside the report; as a list they can be kept as a view. */
export function RecordsBeside({ question, close }: { question: Question; close: () => void }) {
  const { catalogue } = useSession();
  const plain = useMemo<Design>(() => tableOf(question), [question]);
  const [changed, setChanged] = useState<{ of: Design; design: Design }>();
  const design = changed?.of === plain ? changed.design : plain;
  const asked = useMemo(() => rowsQuestion(design, catalogue), [design, catalogue]);
  const rows = useRows(asked);
  const wording = useWording(rows.names ?? NO_NAMES);
  const [marks, setMarks] = useState(noMarks);
  const { label, plural, path } = objectType(question.object);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), [question]);
  return (
    <aside
      className="records-beside"
      aria-label="Records behind the figure"
      onKeyDown={(event) => {
        if (event.key === 'Escape') close();
      }}
    >
      <header>
        <h2 ref={heading} tabIndex={-1}>
          {rows.total === undefined ? plural : counted(rows.total, label.toLowerCase(), plural.toLowerCase())}
        </h2>
        {isCustomisable(question.object) && (
          <Link to={listAddress(path, design.question)}>Open as a list</Link>
        )}
        <button type="button" className="icon-button" onClick={close} aria-label="Close the records">
          <X size={16} aria-hidden />
        </button>
      </header>
      <RecordTable
        design={design}
        onChange={(next) => setChanged({ of: plain, design: next })}
        rows={rows}
        wording={wording}
        marks={marks}
        setMarks={setMarks}
        empty={<Empty title="There are none." />}
      />
    </aside>
  );
}

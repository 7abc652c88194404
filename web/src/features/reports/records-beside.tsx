import { isCustomisable, objectType, tableOf, type Design, type Names, type Question } from '@zawn/core';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { listAddress } from '../../kernel/questions/list-address';
import { useWording } from '../../kernel/questions/use-wording';
import { noMarks } from '../../kernel/records/marks';
import { RecordTable, rowsQuestion } from '../../kernel/records/record-table';
import { useRows } from '../../kernel/records/use-rows';
import { counted } from '../../platform/frame/format';
import { Empty } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { BesidePanel } from './beside-panel';

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
  return (
    <BesidePanel
      label="Records behind the figure"
      heading={
        rows.total === undefined ? plural : counted(rows.total, label.toLowerCase(), plural.toLowerCase())
      }
      also={
        isCustomisable(question.object) && <Link to={listAddress(path, design.question)}>Open as a list</Link>
      }
      of={question}
      close={close}
    >
      <RecordTable
        design={design}
        onChange={(next) => setChanged({ of: plain, design: next })}
        rows={rows}
        wording={wording}
        marks={marks}
        setMarks={setMarks}
        empty={<Empty title="There are none." />}
      />
    </BesidePanel>
  );
}

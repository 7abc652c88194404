import { useQuery } from '@tanstack/react-query';
import { objectType, type AnyRecord, type SubjectKey } from '@zawn/core';
import { Popover } from 'antd';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { oneRecord } from '../../platform/api/queries';
import { useBrought, type CellPart as Part } from '../shell/feature';
import { Trouble } from '../../platform/frame/states';
import './cell-part.css';

interface Props {
  part: Part;
  object: SubjectKey;
  record: AnyRecord;
  close: () => void;
  /** The cell as it is read. */
  children: ReactNode;
}

/** A cell whose figure follows from something else, with what it follows from asked for below it. */
export function CellPart({ part, object, record, close, children }: Props) {
  const name = String(record[objectType(object).nameField]);
  return (
    <Popover
      open
      onOpenChange={close}
      trigger="click"
      placement="bottomLeft"
      arrow={false}
      content={
        // What is pressed and clicked in here is not meant for the row.
        <div
          className="cell-part"
          onClick={(event) => event.stopPropagation()}
          onDoubleClick={(event) => event.stopPropagation()}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') close();
          }}
        >
          <h4>{name}</h4>
          <Asked part={part} object={object} id={record.id} close={close} />
        </div>
      }
    >
      <span className="cell-asked">{children}</span>
    </Popover>
  );
}

/** The part itself, once the whole record is there, or the form that the part led to. */
function Asked({
  part: { Part },
  object,
  id,
  close,
}: Pick<Props, 'part' | 'object' | 'close'> & { id: number }) {
  const { data, error, refetch } = useQuery(oneRecord(object, id));
  const [form, setForm] = useState<string>();
  const written = useBrought('forms').find(({ key }) => key === form);
  if (error && !data) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return null;
  return written ? (
    <written.Form on={{ object, id }} close={() => setForm(undefined)} />
  ) : (
    <Focused>
      <Part object={object} {...data} write={setForm} close={close} />
    </Focused>
  );
}

/** Takes the focus to its first control, unless one of them has taken it already. */
function Focused({ children }: { children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (place.current && !place.current.contains(document.activeElement)) place.current.focus();
  }, []);
  return (
    <div ref={place} tabIndex={-1}>
      {children}
    </div>
  );
}

import { columnsOf, fieldAt, type Catalogue, type Design, type ObjectKey } from '@zawn/core';
import { Button, Popover } from 'antd';
import { Columns3, X } from 'lucide-react';
import { useState } from 'react';
import { moved, MoveButtons } from '../../platform/frame/move-buttons';
import { fieldOptions, pathTitle } from '../sentence/field-options';
import { PickList } from '../sentence/pick-list';
import { useSession } from '../../platform/sessions/session';
import './views.css';

interface Props {
  design: Design;
  onChange: (design: Design) => void;
}

/** The columns of a table in their order, each to be moved or taken out, with a field to add more. */
export function ColumnsPanel({ design, onChange }: Props) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover
      open={isOpen}
      onOpenChange={setOpen}
      trigger="click"
      placement="bottomRight"
      arrow={false}
      destroyOnHidden
      classNames={{ root: 'token-popover' }}
      content={
        <div onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}>
          <Columns design={design} onChange={onChange} />
        </div>
      }
    >
      <Button icon={<Columns3 size={15} />}>Columns</Button>
    </Popover>
  );
}

function Columns({ design, onChange }: Props) {
  const { catalogue } = useSession();
  const { question } = design;
  const columns = columnsOf(design).filter((path) => fieldAt(catalogue, question.object, path));
  const { labels = {} } = question;
  const call = (path: string, label: string) => {
    const { [path]: _before, ...others } = labels;
    const { labels: _labels, ...plain } = question;
    const next = label.trim() === '' ? others : { ...others, [path]: label.trim() };
    onChange({ ...design, question: Object.keys(next).length > 0 ? { ...plain, labels: next } : plain });
  };
  const set = (next: readonly string[]) =>
    next.length > 0 && onChange({ ...design, question: { ...question, columns: [...next] } });
  return (
    <div className="columns-panel">
      <PickList
        label="Columns"
        placeholder="Add or take out a column"
        options={fieldOptions(catalogue, question.object)}
        chosen={new Set(columns)}
        onPick={(path) =>
          set(columns.includes(path) ? columns.filter((each) => each !== path) : [...columns, path])
        }
      />
      <ol className="columns-order" aria-label="Order of the columns">
        {columns.map((path, at) => (
          <li key={path}>
            <input
              className="columns-label"
              aria-label={`${title(catalogue, question.object, path)} is called`}
              placeholder={title(catalogue, question.object, path)}
              maxLength={60}
              defaultValue={labels[path] ?? ''}
              onBlur={(event) =>
                event.target.value !== (labels[path] ?? '') && call(path, event.target.value)
              }
              onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            />
            <MoveButtons
              name={path}
              at={at}
              count={columns.length}
              move={(step) => set(moved(columns, at, step))}
              words={['further left', 'further right']}
            />
            <button
              type="button"
              className="icon-button"
              disabled={columns.length === 1}
              onClick={() => set(columns.filter((each) => each !== path))}
              aria-label={`Take out ${path}`}
            >
              <X size={13} aria-hidden />
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}

const title = (catalogue: Catalogue, object: ObjectKey, path: string) => pathTitle(catalogue, object, path);

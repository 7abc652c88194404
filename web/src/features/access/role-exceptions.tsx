import {
  objectType,
  operationLabels,
  operationsOn,
  permittedObjects,
  reaches,
  reachLabels,
  type Condition,
  type ObjectKey,
  type Operation,
  type Reach,
  type RoleException,
} from '@zawn/core';
import { Button, Select } from 'antd';
import { Plus, Trash2 } from 'lucide-react';
import { moved, MoveButtons } from '../../platform/frame/move-buttons';
import { WrittenCondition } from '../../kernel/sentence/kept-condition';
import '../../kernel/sentence/sentence.css';

/** An exception that is being written: which records it means may still be open. */
export type DraftException = Omit<RoleException, 'where'> & { where: Condition | undefined };

/** What holds of some records instead of what the table says: the first exception that a record meets counts. */
export function RoleExceptions({
  exceptions,
  change,
}: {
  exceptions: readonly DraftException[];
  change: (exceptions: DraftException[]) => void;
}) {
  const objects = permittedObjects().map((object) => ({ value: object, label: objectType(object).plural }));
  const set = (index: number, values: Partial<DraftException>) =>
    change(exceptions.map((each, at) => (at === index ? { ...each, ...values } : each)));
  return (
    <section className="role-part" aria-label="Exceptions">
      <h2>Exceptions</h2>
      {exceptions.length === 0 && <p className="second">None: the table holds of every record.</p>}
      <ol className="exceptions">
        {exceptions.map(({ object, operations, where, reach }, index) => (
          <li key={index}>
            <div className="sentence">
              <Select<ObjectKey>
                variant="borderless"
                size="small"
                value={object}
                options={objects}
                popupMatchSelectWidth={false}
                onChange={(to) =>
                  set(index, {
                    object: to,
                    where: undefined,
                    operations: operations.filter((each) => operationsOn(to).includes(each)),
                  })
                }
                aria-label={`Records exception ${index + 1} is about`}
              />
              <span className="clause">
                <WrittenCondition
                  object={object}
                  condition={where}
                  change={(next) => set(index, { where: next })}
                />
              </span>
            </div>
            <div className="exception-says">
              <Select<Operation[]>
                mode="multiple"
                size="small"
                value={[...operations]}
                options={operationsOn(object).map((each) => ({ value: each, label: operationLabels[each] }))}
                onChange={(next) => next.length > 0 && set(index, { operations: next })}
                aria-label={`What exception ${index + 1} is about`}
              />
              <Select<Reach>
                size="small"
                value={reach}
                options={reaches.map((each) => ({ value: each, label: reachLabels[each] }))}
                popupMatchSelectWidth={false}
                onChange={(to) => set(index, { reach: to })}
                aria-label={`How far exception ${index + 1} reaches`}
              />
              <MoveButtons
                name={`exception ${index + 1}`}
                at={index}
                count={exceptions.length}
                move={(step) => change(moved(exceptions, index, step))}
              />
              <Button
                type="text"
                size="small"
                icon={<Trash2 size={14} />}
                aria-label={`Take exception ${index + 1} out`}
                onClick={() => change(exceptions.filter((_, at) => at !== index))}
              />
            </div>
          </li>
        ))}
      </ol>
      <Button
        size="small"
        icon={<Plus size={14} />}
        onClick={() =>
          change([...exceptions, { object: 'deal', operations: ['see'], where: undefined, reach: 'none' }])
        }
      >
        Exception
      </Button>
    </section>
  );
}

import { isWholeCondition, objectType, type Condition, type ObjectKey } from '@zawn/core';
import { Button, Select } from 'antd';
import { Plus, X } from 'lucide-react';
import { type ReactNode } from 'react';
import { number } from '../../platform/frame/format';
import { WrittenCondition } from '../../kernel/sentence/kept-condition';
import { useSession } from '../../platform/sessions/session';

/** Some of what is handed over, asked for by a condition, and who gets it. */
export interface Part {
  key: number;
  where: Condition | undefined;
  to: number[];
}

/** How one kind of open work is handed over: parts by condition, and what is left over. */
export interface KindHandOver {
  parts: Part[];
  rest: number[];
}

export const nothingYet: KindHandOver = { parts: [], rest: [] };

/** Who some of the work goes to. */
function Receivers({
  label,
  value,
  isDisabled = false,
  placeholder,
  options,
  change,
}: {
  label: string;
  value: number[];
  isDisabled?: boolean;
  placeholder: string;
  options: { value: number; label: string }[];
  change: (to: number[]) => void;
}) {
  return (
    <Select
      mode="multiple"
      value={value}
      placeholder={placeholder}
      disabled={isDisabled}
      options={options}
      showSearch={{ optionFilterProp: 'label' }}
      onChange={change}
      aria-label={label}
    />
  );
}

interface Props {
  object: ObjectKey;
  label: string;
  count: ReactNode;
  isEmpty: boolean;
  given: string;
  /** How many each part takes; undefined where it is not known yet. */
  taken: (part: Part) => number | undefined;
  handOver: KindHandOver;
  options: { value: number; label: string }[];
  change: (handOver: KindHandOver) => void;
}

/** The rows of one kind of open work: who gets it, and below that each part given apart, as a sentence. */
export function LeavingKind({
  object,
  label,
  count,
  isEmpty,
  given,
  taken,
  handOver,
  options,
  change,
}: Props) {
  const { catalogue } = useSession();
  const { parts, rest } = handOver;
  const placeholder = isEmpty
    ? 'Nothing to hand over'
    : `${parts.length > 0 ? 'The rest stays' : 'Stays'} in their name`;
  const many = objectType(object).plural.toLowerCase();
  const setPart = (part: Part) =>
    change({ ...handOver, parts: parts.map((each) => (each.key === part.key ? part : each)) });
  const add = () =>
    change({
      ...handOver,
      parts: [...parts, { key: Math.max(0, ...parts.map(({ key }) => key)) + 1, where: undefined, to: [] }],
    });
  return (
    <>
      <tr>
        <td>
          {label}
          {!isEmpty && (
            <Button
              type="text"
              size="small"
              className="leaving-some"
              icon={<Plus size={13} />}
              aria-label={`Give some ${many} to somebody else`}
              onClick={add}
            >
              some apart
            </Button>
          )}
        </td>
        <td className="figure">{count}</td>
        <td>
          <Receivers
            label={`Who gets the ${label.toLowerCase()}`}
            value={rest}
            placeholder={placeholder}
            isDisabled={isEmpty}
            options={options}
            change={(to) => change({ ...handOver, rest: to })}
          />
        </td>
        <td className="second">{given}</td>
      </tr>
      {parts.map((part) => {
        const isAsked = part.where !== undefined && isWholeCondition(catalogue, object, part.where);
        const takes = taken(part);
        return (
          <tr key={part.key} className="leaving-part">
            <td>
              <div className="sentence" role="group" aria-label={`Which ${many}, part ${part.key}`}>
                <span className="clause">
                  {objectType(object).plural}
                  <WrittenCondition
                    object={object}
                    condition={part.where}
                    change={(where) => setPart({ ...part, where })}
                  />
                </span>
              </div>
            </td>
            <td className="figure">
              {takes !== undefined && number(takes)}
              {!isAsked && <span className="late">say which</span>}
            </td>
            <td>
              <Receivers
                label={`Who gets the ${many} of part ${part.key}`}
                value={part.to}
                placeholder="Choose who gets these"
                options={options}
                change={(to) => setPart({ ...part, to })}
              />
            </td>
            <td>
              <Button
                type="text"
                size="small"
                icon={<X size={14} />}
                aria-label={`Take part ${part.key} of the ${many} out`}
                onClick={() => change({ ...handOver, parts: parts.filter(({ key }) => key !== part.key) })}
              />
            </td>
          </tr>
        );
      })}
    </>
  );
}

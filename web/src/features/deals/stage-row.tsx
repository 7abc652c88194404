import { allOf, ask, isLikeOutcome, type RecordOf, type StageMeasure } from '@zawn/core';
import { ConfigProvider } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { useWrite } from '../../platform/api/use-write';
import { number, percent } from '../../platform/frame/format';
import { KeptName, KeptNumber } from '../../platform/frame/kept-field';
import { MoveButtons } from '../../platform/frame/move-buttons';
import { listAddress } from '../../kernel/questions/list-address';
import { StepGuide } from '../guides/step-guide';
import { RetireStage } from './retire';

export type Stage = RecordOf<'stage'>;

/** Deals from which a share says something. */
const ENOUGH = 5;

export interface Measured {
  measure: StageMeasure | undefined;
  open: number;
}

/** What was measured, offered in one click where it differs from what is set. */
function Offered({
  words,
  value,
  kept,
  use,
  label,
}: {
  words: string;
  value: number | null;
  kept: number;
  use: (value: number) => void;
  label: string;
}) {
  const { componentDisabled } = ConfigProvider.useConfig();
  return (
    <span className="second stage-measured">
      <span>{words}</span>
      {value !== null && value !== kept && !componentDisabled && (
        <button type="button" className="chip" onClick={() => use(value)} aria-label={label}>
          use {number(value)}
        </button>
      )}
    </span>
  );
}

interface StageRowProps extends Measured {
  stage: Stage;
  at: number;
  others: readonly Stage[];
  count: number;
  move: (step: 1 | -1) => void;
  /** What its guide asks for. */
  items: readonly RecordOf<'guideItem'>[];
}

/** One stage: its name, how likely a deal in it is won, how long one usually stays, beside how it really was. */
export function StageRow({ stage, at, others, count, move, measure, open, items }: StageRowProps) {
  const [isGuideOpen, setGuideOpen] = useState(false);
  const write = useWrite();
  const change = (body: Partial<RecordOf<'stage'>>) =>
    write.mutate({ method: 'PATCH', path: `/stages/${stage.id}`, version: stage.version, body });
  const closed = measure?.closed ?? 0;
  const share = closed >= ENOUGH ? Math.round((100 * (measure?.won ?? 0)) / closed) : null;
  const median = (measure?.stays ?? 0) >= ENOUGH ? (measure?.medianDays ?? null) : null;
  const numberField = (key: 'probability' | 'usualDays', label: string, min: number, max: number) => (
    <KeptNumber
      value={stage[key]}
      min={min}
      max={max}
      aria-label={`${label} of ${stage.name}`}
      keep={(value) => value !== null && change({ [key]: value })}
    />
  );
  return (
    <>
      <tr>
        <td>
          <KeptName
            variant="borderless"
            value={stage.name}
            maxLength={200}
            aria-label={`Name of the stage ${stage.name}`}
            keep={(name) => change({ name })}
          />
          {isLikeOutcome(stage.name) && (
            <small className="stage-remark attention">
              Won and lost are no stages: close a deal as one of them, and it leaves the pipeline.
            </small>
          )}
        </td>
        <td className="stage-set">
          {numberField('probability', 'Probability in percent', 0, 100)} %
          <Offered
            words={
              closed === 0
                ? 'no deal closed yet'
                : `${percent((measure?.won ?? 0) / closed)} of ${number(closed)} won`
            }
            value={share}
            kept={stage.probability}
            use={(probability) => change({ probability })}
            label={`Use ${share ?? ''} percent for ${stage.name}`}
          />
        </td>
        <td className="stage-set">
          {numberField('usualDays', 'Usual days', 1, 3650)} days
          <Offered
            words={
              measure?.medianDays == null
                ? 'none has left it yet'
                : `half within ${number(measure.medianDays)}, nine in ten within ${number(measure.ninetiethDays ?? 0)}`
            }
            value={median === null ? null : Math.max(1, median)}
            kept={stage.usualDays}
            use={(usualDays) => change({ usualDays })}
            label={`Use ${median ?? ''} days for ${stage.name}`}
          />
        </td>
        <td className="figure" data-label="Open deals">
          <Link
            to={listAddress('deals', {
              ...ask('deal'),
              where: allOf(
                { field: 'stage', is: 'anyOf', value: [stage.id] },
                { field: 'outcome', is: 'anyOf', value: ['open'] },
              ),
            })}
          >
            {number(open)}
          </Link>
        </td>
        <td data-label="Guide">
          <button
            type="button"
            className="link-button"
            aria-expanded={isGuideOpen}
            aria-label={`Guide of ${stage.name}: ${items.length === 0 ? 'none' : number(items.length)}`}
            onClick={() => setGuideOpen(!isGuideOpen)}
          >
            {items.length === 0 ? 'none' : number(items.length)}
          </button>
        </td>
        <td className="stage-actions">
          <MoveButtons name={stage.name} at={at} count={count} move={move} />
          <RetireStage stage={stage} others={others} open={open} />
        </td>
      </tr>
      {isGuideOpen && (
        <tr>
          <td colSpan={6}>
            <StepGuide step={{ stage: stage.id }} name={stage.name} items={items} />
          </td>
        </tr>
      )}
    </>
  );
}

import {
  figureLabel,
  figureOperators,
  formatOf,
  toMajor,
  toMinor,
  verbInWords,
  type FigureTest,
  type ReportDesign,
} from '@zawn/core';
import { Button, InputNumber, Select } from 'antd';
import { useState } from 'react';
import { useSession } from '../../platform/sessions/session';

interface Props {
  design: ReportDesign;
  test?: FigureTest;
  save: (test: FigureTest) => void;
}

/** Figures are typed as they are read: amounts in whole units, parts in percent. */
export function useUnits(
  design: ReportDesign,
  key: string,
): { read: (value: number) => number; kept: (value: number) => number; unit: string } {
  const { catalogue, organisation } = useSession();
  const figure = design.figures.find((each) => each.key === key);
  const format = figure ? formatOf(figure, design, catalogue) : 'number';
  if (format === 'money')
    return {
      read: (value) => Number(toMajor(value, organisation.currency)),
      kept: (value) => toMinor(value, organisation.currency),
      unit: organisation.currency,
    };
  if (format === 'percent') return { read: (value) => value * 100, kept: (value) => value / 100, unit: '%' };
  return { read: (value) => value, kept: (value) => value, unit: format === 'days' ? 'days' : '' };
}

/** A condition on a figure: which groups are kept. */
export function KeepForm({ design, test, save }: Props) {
  const { catalogue } = useSession();
  const [figure, setFigure] = useState(test?.figure ?? design.figures[0].key);
  const [is, setIs] = useState<FigureTest['is']>(test?.is ?? 'atLeast');
  const units = useUnits(design, figure);
  const [first, second] = typeof test?.value === 'object' ? test.value : [test?.value, undefined];
  const [low, setLow] = useState<number | null>(first === undefined ? null : units.read(first));
  const [high, setHigh] = useState<number | null>(second === undefined ? null : units.read(second));
  const isWhole = low !== null && (is !== 'between' || (high !== null && high >= low));
  const done = () => {
    if (low === null || !isWhole) return;
    save({
      figure,
      is,
      value: is === 'between' ? [units.kept(low), units.kept(high ?? low)] : units.kept(low),
    });
  };
  return (
    <form
      className="figure-form"
      aria-label="Groups whose figure"
      onSubmit={(event) => {
        event.preventDefault();
        done();
      }}
    >
      <Select
        aria-label="Figure"
        value={figure}
        onChange={setFigure}
        options={design.figures
          .filter((each) => !('running' in each))
          .map((each) => ({ value: each.key, label: figureLabel(each, design, catalogue) }))}
      />
      <Select
        aria-label="How it compares"
        value={is}
        onChange={setIs}
        options={figureOperators.map((each) => ({ value: each, label: verbInWords(each) }))}
      />
      <InputNumber aria-label="Value" autoFocus value={low} onChange={setLow} suffix={units.unit} />
      {is === 'between' && (
        <InputNumber aria-label="Up to" value={high} onChange={setHigh} suffix={units.unit} />
      )}
      <Button htmlType="submit" type="primary" disabled={!isWhole || undefined}>
        Keep these
      </Button>
    </form>
  );
}

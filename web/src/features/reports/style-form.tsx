import { type DrawingStyle, type ReportDesign } from '@zawn/core';
import { Button, InputNumber, Select } from 'antd';
import { useState } from 'react';
import { drawnFigure } from './figures';
import { useUnits } from './keep-form';

const labelWords = { all: 'figures at every mark', none: 'no figures at the marks' } as const;
const legendWords = { below: 'the legend below', none: 'no legend' } as const;

/** How a drawing is written out, as the sentence reads: `with no legend, a scale of its own`. */
export function styleInWords({ labels, legend, from, to }: DrawingStyle): string {
  const parts = [
    labels && labelWords[labels],
    legend && legendWords[legend],
    from !== undefined || to !== undefined ? 'a scale of its own' : undefined,
  ].filter(Boolean);
  return parts.length > 0 ? `with ${parts.join(', ')}` : 'with labels, limits…';
}

/** Where a drawing writes figures and its legend, and where its scale begins and ends. */
export function StyleForm({
  design,
  save,
}: {
  design: ReportDesign;
  save: (style: DrawingStyle | undefined) => void;
}) {
  const units = useUnits(design, drawnFigure(design).key);
  const { style = {} } = design;
  const [labels, setLabels] = useState(style.labels);
  const [legend, setLegend] = useState(style.legend);
  const [from, setFrom] = useState<number | null>(style.from === undefined ? null : units.read(style.from));
  const [to, setTo] = useState<number | null>(style.to === undefined ? null : units.read(style.to));
  const isSound = from === null || to === null || from < to;
  const done = () => {
    const next: DrawingStyle = {
      ...(labels ? { labels } : {}),
      ...(legend ? { legend } : {}),
      ...(from === null ? {} : { from: units.kept(from) }),
      ...(to === null ? {} : { to: units.kept(to) }),
    };
    save(Object.keys(next).length > 0 ? next : undefined);
  };
  return (
    <form
      className="figure-form"
      aria-label="Written out"
      onSubmit={(event) => {
        event.preventDefault();
        if (isSound) done();
      }}
    >
      <label className="figure-field">
        <span>Figures at the marks</span>
        <Select
          autoFocus
          value={labels ?? 'usual'}
          options={[
            { value: 'usual', label: 'Where there is room' },
            { value: 'all', label: 'At every mark' },
            { value: 'none', label: 'None' },
          ]}
          onChange={(next: string) => setLabels(next === 'usual' ? undefined : (next as 'all'))}
        />
      </label>
      <label className="figure-field">
        <span>Legend</span>
        <Select
          value={legend ?? 'usual'}
          options={[
            { value: 'usual', label: 'Above' },
            { value: 'below', label: 'Below' },
            { value: 'none', label: 'None' },
          ]}
          onChange={(next: string) => setLegend(next === 'usual' ? undefined : (next as 'below'))}
        />
      </label>
      <label className="figure-field">
        <span>Scale begins at</span>
        <InputNumber
          value={from}
          onChange={setFrom}
          suffix={units.unit}
          placeholder="As the figures want it"
        />
      </label>
      <label className="figure-field">
        <span>Scale ends at</span>
        <InputNumber value={to} onChange={setTo} suffix={units.unit} placeholder="As the figures want it" />
      </label>
      {!isSound && <p className="left-out">The scale must end above where it begins.</p>}
      <Button htmlType="submit" type="primary" disabled={!isSound || undefined}>
        Draw it so
      </Button>
    </form>
  );
}

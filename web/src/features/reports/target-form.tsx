import { type ReportDesign } from '@zawn/core';
import { Button, InputNumber } from 'antd';
import { useState } from 'react';
import { drawnFigure } from './figures';
import { useUnits } from './keep-form';

/** A line that the drawn figure is to reach. */
export function TargetForm({ design, save }: { design: ReportDesign; save: (target: number) => void }) {
  const units = useUnits(design, drawnFigure(design).key);
  const [value, setValue] = useState<number | null>(
    design.target === undefined ? null : units.read(design.target),
  );
  return (
    <form
      className="figure-form"
      aria-label="Target"
      onSubmit={(event) => {
        event.preventDefault();
        if (value !== null) save(units.kept(value));
      }}
    >
      <InputNumber aria-label="Target" autoFocus value={value} onChange={setValue} suffix={units.unit} />
      <Button htmlType="submit" type="primary" disabled={value === null || undefined}>
        Draw the line
      </Button>
    </form>
  );
}

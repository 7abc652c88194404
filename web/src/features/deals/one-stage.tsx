import { Button, Select } from 'antd';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useRef, useState } from 'react';
import { type Drawn, type Layout } from './grid-parts';
import { StageColumn } from './stage-columns';

/** How far a finger goes sideways before it means the next stage. */
const SWIPE = 60;

const placeOf = ({ clientX: x, clientY: y }: { clientX: number; clientY: number }) => ({ x, y });

/** One stage at a time, for a narrow screen: picked, stepped through, or swiped. */
export function OneStage({ layout, drawn }: { layout: Layout; drawn: Drawn }) {
  const { stages, byStage } = layout;
  const countOf = (id: number) => byStage.get(id)?.count ?? 0;
  const [chosen, setChosen] = useState(() => stages.findLast(({ id }) => countOf(id) > 0)?.id);
  const began = useRef<{ x: number; y: number }>(undefined);
  const at = Math.max(
    0,
    stages.findIndex(({ id }) => id === chosen),
  );
  const stage = stages[at];
  const step = (by: number) => setChosen((stages[at + by] ?? stage).id);
  return (
    <div
      className="one-stage"
      role="group"
      aria-label="Deals of one stage"
      onTouchStart={({ touches }) => {
        began.current = placeOf(touches[0]);
      }}
      onTouchEnd={({ changedTouches }) => {
        if (!began.current) return;
        const ended = placeOf(changedTouches[0]);
        const [x, y] = [ended.x - began.current.x, ended.y - began.current.y];
        if (Math.abs(x) > SWIPE && Math.abs(x) > 2 * Math.abs(y)) step(x < 0 ? 1 : -1);
      }}
    >
      <div className="one-stage-pick">
        <Button
          icon={<ChevronLeft size={16} />}
          disabled={at === 0}
          onClick={() => step(-1)}
          aria-label="Stage before"
        />
        <Select
          value={stage.id}
          options={stages.map(({ id, name }) => ({ value: id, label: `${name} (${countOf(id)})` }))}
          onChange={setChosen}
          aria-label="Stage"
        />
        <Button
          icon={<ChevronRight size={16} />}
          disabled={at === stages.length - 1}
          onClick={() => step(1)}
          aria-label="Next stage"
        />
      </div>
      <StageColumn stage={stage} layout={layout} drawn={drawn} />
    </div>
  );
}

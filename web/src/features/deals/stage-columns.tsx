import { cellKey } from '@zawn/core';
import { counted } from '../../platform/frame/format';
import { Cell, columnLabel, Strips, Sum, type Drawn, type Layout, type Stage } from './grid-parts';

/** Where a deal is dropped that keeps its close date. */
export const KEEPS_DATE = 'keeps date';

/** One stage from top to bottom: its sums, then its deals by expected close. */
export function StageColumn({ stage, layout, drawn }: { stage: Stage; layout: Layout; drawn: Drawn }) {
  const { id, name, probability } = stage;
  const sum = layout.byStage.get(id);
  return (
    <Cell id={cellKey(id, KEEPS_DATE)} className="stage-column">
      <header>
        <b>{name}</b>
        <span className="second">
          {counted(sum?.count ?? 0, 'deal')}, {probability} %
        </span>
        <Sum sum={sum} to={drawn.listOf(id, undefined)} />
      </header>
      {layout.columns.map((column) => {
        const cell = cellKey(id, column.key);
        if ((layout.byCell.get(cell)?.count ?? 0) === 0) return null;
        return (
          <section key={column.key} aria-label={`${name}, ${columnLabel(column)}`} data-month={column.key}>
            <h3 className={column.key === 'overdue' ? 'attention late' : ''}>{columnLabel(column)}</h3>
            <Strips layout={layout} drawn={drawn} stage={id} column={column.key} cell={cell} />
          </section>
        );
      })}
    </Cell>
  );
}

/** The stages side by side, the first on the left. */
export function StageColumns({ layout, drawn }: { layout: Layout; drawn: Drawn }) {
  return (
    <div className="stage-columns" role="group" aria-label="Deals by stage">
      {layout.stages.map((stage) => (
        <StageColumn key={stage.id} stage={stage} layout={layout} drawn={drawn} />
      ))}
    </div>
  );
}

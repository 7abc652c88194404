import { cellKey } from '@zawn/core';
import { dateFormat } from '../../platform/frame/format';
import { Cell, columnLabel, Strips, Sum, type Drawn, type Layout } from './grid-parts';

const shortMonth = dateFormat({ month: 'short' });
const WIDE = 'minmax(132px, 1fr)';
const FOLDED = '46px';

/** Stages by expected close month, the last stage on top. A month and a stage without deals are folded. */
export function MonthGrid({ layout, drawn }: { layout: Layout; drawn: Drawn }) {
  const { columns, byStage, byColumn, total } = layout;
  const isEmpty = (column: string) => (byColumn.get(column)?.count ?? 0) === 0;
  const template = `118px ${columns.map(({ key }) => (isEmpty(key) ? FOLDED : WIDE)).join(' ')} 92px`;
  return (
    <div
      className="grid"
      role="group"
      aria-label="Deals by stage and expected close"
      style={{ ['--columns' as string]: template }}
    >
      <div className="grid-row grid-head">
        <div />
        {columns.map((column) => {
          const { key, from } = column;
          const isFolded = isEmpty(key);
          return (
            <div
              key={key}
              className={key === 'overdue' && !isFolded ? 'attention late' : ''}
              title={isFolded ? `${columnLabel(column)}: no deals` : undefined}
            >
              {isFolded && from && key !== 'later' ? shortMonth(from) : isFolded ? '' : columnLabel(column)}
            </div>
          );
        })}
        <div className="figure">In stage</div>
      </div>
      {layout.stages.toReversed().map(({ id, name, probability }) => {
        const isFolded = (byStage.get(id)?.count ?? 0) === 0;
        return (
          <div key={id} className={`grid-row ${isFolded ? 'grid-folded' : ''}`}>
            <div className="grid-stage" title={isFolded ? name : undefined}>
              <b>{name}</b>
              {!isFolded && <span className="second">{probability} %</span>}
            </div>
            {columns.map(({ key }) => {
              const cell = cellKey(id, key);
              return (
                <Cell key={key} id={cell} isClosed={key === 'overdue'} className="grid-cell">
                  <Strips layout={layout} drawn={drawn} stage={id} column={key} cell={cell} />
                </Cell>
              );
            })}
            <div className="figure">
              <Sum sum={byStage.get(id)} to={drawn.listOf(id, undefined)} />
            </div>
          </div>
        );
      })}
      <div className="grid-row grid-foot">
        <div className="second">
          Open
          <br />
          weighted
        </div>
        {columns.map((column) => (
          <div key={column.key}>
            {!isEmpty(column.key) && (
              <Sum sum={byColumn.get(column.key)} to={drawn.listOf(undefined, column)} />
            )}
          </div>
        ))}
        <div className="figure">
          <Sum sum={total} to={drawn.listOf(undefined, undefined)} />
        </div>
      </div>
    </div>
  );
}

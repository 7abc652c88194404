import {
  groupingInWords,
  measureInWords,
  type Design,
  type FieldValue,
  type FiguresAnswer,
  type FigureRow,
  type Measure,
  type Question,
} from '@zawn/core';
import { Link } from 'react-router';
import { useSession } from '../../platform/sessions/session';
import { Unrated } from '../questions/unrated';
import { figureText, keyLabel, type LabelContext } from './key-label';

interface Props {
  /** The cells, then the edges: by the first group, by the second, and all. */
  answers: readonly FiguresAnswer[];
  question: Question;
  measures: readonly Measure[];
  labels: LabelContext;
  rounding: Design['rounding'];
  openAt: (...keys: (FieldValue | undefined)[]) => string;
}

/** Columns shown; what there is beyond is said. */
const MOST_COLUMNS = 60;
const MOST_ROWS = 1000;

/** Two groups crossed, with sums on both edges. Every cell opens its records. */
export function Pivot({ answers, question, measures, labels, rounding, openAt }: Props) {
  const { organisation } = useSession();
  const { object, groups = [] } = question;
  const [cells, byRow, byColumn, all] = answers;
  const at = new Map(cells.rows.map((row) => [JSON.stringify(row.keys), row]));
  const columns = groups.length > 1 ? byColumn.rows.slice(0, MOST_COLUMNS) : [];
  const rows = groups.length > 0 ? byRow.rows.slice(0, MOST_ROWS) : [];
  const label = (index: 0 | 1, key: FieldValue, names: LabelContext['names']) =>
    keyLabel(object, groups[index], key, { ...labels, names });
  const figure = (row: FigureRow | undefined, measure: Measure, index: number) =>
    figureText(
      row?.figures[index + (question.measures?.length ? 1 : 0)] ?? null,
      measure,
      object,
      labels,
      organisation.currency,
      rounding,
    );
  const cell = (row: FigureRow | undefined, to: string, key: string, className = '') => (
    <td key={key} className={`figure ${className}`}>
      {row && row.figures[0] ? (
        <Link to={to}>
          {measures.map((measure, index) => (
            <span key={index} className={index === 0 ? 'pivot-first' : 'pivot-next'}>
              {figure(row, measure, index)}
            </span>
          ))}
        </Link>
      ) : (
        <span className="second">–</span>
      )}
    </td>
  );
  return (
    <div className="pivot-scroller" tabIndex={0} role="region" aria-label="Pivot">
      <table className="pivot">
        <caption className="second">
          {measures.map((measure) => measureInWords(labels.catalogue, object, measure)).join(', ')}
        </caption>
        <thead>
          <tr>
            <th scope="col" className="second">
              {groups.map((grouping) => groupingInWords(labels.catalogue, object, grouping)).join(' / ')}
            </th>
            {columns.map(({ keys: [key] }) => (
              <th key={JSON.stringify(key)} scope="col" className="figure">
                <Link to={openAt(undefined, key)}>{label(1, key, byColumn.names)}</Link>
              </th>
            ))}
            <th scope="col" className="figure pivot-edge">
              All
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const [key] = row.keys;
            return (
              <tr key={JSON.stringify(key)}>
                <th scope="row">
                  <Link to={openAt(key)}>{label(0, key, byRow.names)}</Link>
                </th>
                {columns.map(({ keys: [column] }) =>
                  cell(at.get(JSON.stringify([key, column])), openAt(key, column), JSON.stringify(column)),
                )}
                {cell(row, openAt(key), 'all', 'pivot-edge')}
              </tr>
            );
          })}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">All</th>
            {columns.map((row) => cell(row, openAt(undefined, row.keys[0]), JSON.stringify(row.keys[0])))}
            {cell(all.rows[0], openAt(), 'all', 'pivot-edge')}
          </tr>
        </tfoot>
      </table>
      <Unrated parts={[[question, all.unrated]]} />
      {(byColumn.rows.length > MOST_COLUMNS || byRow.rows.length > MOST_ROWS) && (
        <p className="left-out">There are more rows or columns than are shown. Group by something coarser.</p>
      )}
    </div>
  );
}

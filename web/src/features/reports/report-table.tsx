import {
  figureLabel,
  groupingInWords,
  howMade,
  type FieldValue,
  type ReportFigure,
  type ReportRow,
  type RowPlace,
} from '@zawn/core';
import { Button, Popover } from 'antd';
import { Info } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { keyLabel } from '../../kernel/drawings/key-label';
import { Unrated } from '../../kernel/questions/unrated';
import { number } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { drawnFigure, firstRows, reportFigureText } from './figures';
import { type ReportPart } from './report-part';

interface Props extends ReportPart {
  /** The address of the report one level or more further down; nothing where there is none. */
  furtherDown: (keys: readonly FieldValue[]) => string | undefined;
}

/** Rows drawn at first, and so many more with each look further. */
const ROWS = 200;
const MOST_SPLITS = 24;

/** Groups that the condition behind a running total names. */
const MOST_NAMED = 100;

/** For each row the innermost keys of it and of those before it within the same group. */
function keysBefore(rows: readonly ReportRow[]): ReadonlyMap<string, FieldValue[]> {
  const siblings = new Map<string, FieldValue[]>();
  const found = new Map<string, FieldValue[]>();
  for (const { keys } of rows) {
    if (keys.length === 0) continue;
    const parent = JSON.stringify(keys.slice(0, -1));
    const all = [...(siblings.get(parent) ?? []), keys[keys.length - 1]];
    siblings.set(parent, all);
    found.set(JSON.stringify(keys), all);
  }
  return found;
}

/** How a figure was made, on demand. */
function HowMade({
  figure,
  design,
  wording,
  answer,
}: Pick<ReportPart, 'design' | 'wording' | 'answer'> & { figure: ReportFigure }) {
  const name = figureLabel(figure, design, wording.catalogue);
  return (
    <Popover
      trigger="click"
      placement="bottom"
      content={
        <div className="how-made">
          <b>{name}</b>
          {howMade(figure, design, wording, answer).map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
          <Unrated parts={answer.unrated.map(({ question, count }) => [question, count] as const)} />
        </div>
      }
    >
      <button type="button" className="how-made-sign" aria-label={`How “${name}” was made`}>
        <Info size={13} aria-hidden />
      </button>
    </Popover>
  );
}

/** The details of a report: groups within groups with what they come to. Every figure opens its records. */
export function ReportTable({ design, answer, wording, labels, addressOf, furtherDown }: Props) {
  const { organisation } = useSession();
  const [shown, setShown] = useState(ROWS);
  const { catalogue } = wording;
  const { object, groups = [] } = design.question;
  const { figures, split } = design;
  const drawn = drawnFigure(design);
  const drawnAt = figures.indexOf(drawn);
  const splits = split ? answer.splits.slice(0, MOST_SPLITS) : [];
  const text = (value: number | null, figure: ReportFigure) =>
    reportFigureText(value, figure, design, catalogue, labels.currency ?? organisation.currency);
  const first = firstRows(answer.rows)
    .filter(({ rest }) => rest === undefined)
    .map(({ keys: [key] }) => key);
  const nameOf = ({ keys, rest }: ReportRow) => {
    if (rest !== undefined) return `The other ${number(rest)}`;
    if (keys.length === 0) return groups.length === 0 ? 'All' : 'All together';
    return keyLabel(object, groups[keys.length - 1], keys[keys.length - 1], labels);
  };
  const before = keysBefore(answer.rows);
  const cell = (row: ReportRow, figure: ReportFigure, value: number | null, at?: FieldValue) => {
    const upTo =
      'running' in figure && row.keys.length > 0 ? before.get(JSON.stringify(row.keys)) : undefined;
    if (value === null) return <span className="second">–</span>;
    // A condition cannot name that many groups.
    if (upTo && upTo.length > MOST_NAMED) return text(value, figure);
    const place: RowPlace = {
      keys: row.keys,
      figure,
      ...(upTo ? { upTo } : {}),
      ...(at === undefined ? {} : { split: at }),
      ...(row.rest === undefined ? {} : { first }),
    };
    return <Link to={addressOf(place)}>{text(value, figure)}</Link>;
  };
  const [all, ...inside] = answer.rows;
  const rows = inside.slice(0, shown);
  const line = (row: ReportRow) => (
    <>
      <th scope="row" style={{ paddingLeft: Math.max(0, row.keys.length - 1) * 20 }}>
        {row.keys.length === 0 && row.rest === undefined ? (
          nameOf(row)
        ) : (
          <Link
            to={
              (row.rest === undefined ? furtherDown(row.keys) : undefined) ??
              addressOf({ keys: row.keys, ...(row.rest === undefined ? {} : { first }) })
            }
          >
            {nameOf(row)}
          </Link>
        )}
      </th>
      {splits.map((key, index) => (
        <td key={JSON.stringify(key)} className="figure">
          {cell(row, drawn, row.split?.[index].count ? row.split[index].figures[drawnAt] : null, key)}
        </td>
      ))}
      {figures.map((figure, index) => (
        <td key={figure.key} className={`figure ${splits.length > 0 && index === 0 ? 'report-edge' : ''}`}>
          {cell(row, figure, row.figures[index])}
        </td>
      ))}
    </>
  );
  return (
    <div className="report-table" tabIndex={0} role="region" aria-label="Figures">
      <table>
        <thead>
          {splits.length > 0 && split && (
            <tr>
              <td />
              <th scope="colgroup" colSpan={splits.length} className="figure second">
                {figureLabel(drawn, design, catalogue)} by {groupingInWords(catalogue, object, split)}
              </th>
              <td colSpan={figures.length} />
            </tr>
          )}
          <tr>
            <th scope="col" className="second">
              {groups.map((grouping) => groupingInWords(catalogue, object, grouping)).join(', then ')}
            </th>
            {split &&
              splits.map((key) => (
                <th key={JSON.stringify(key)} scope="col" className="figure">
                  {keyLabel(object, split, key, labels)}
                </th>
              ))}
            {figures.map((figure, index) => (
              <th
                key={figure.key}
                scope="col"
                className={`figure ${splits.length > 0 && index === 0 ? 'report-edge' : ''}`}
              >
                {figureLabel(figure, design, catalogue)}{' '}
                <HowMade figure={figure} design={design} wording={wording} answer={answer} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={JSON.stringify([row.keys, row.rest])}
              className={row.keys.length < groups.length && row.rest === undefined ? 'report-group' : ''}
            >
              {line(row)}
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>{line(all)}</tr>
        </tfoot>
      </table>
      {inside.length > shown && (
        <Button type="text" onClick={() => setShown(shown + ROWS * 5)}>
          Show more: {number(shown)} of {number(inside.length)} rows
        </Button>
      )}
      {answer.splits.length > splits.length && (
        <p className="left-out">
          The first {number(splits.length)} of {number(answer.splits.length)} columns are shown. Split by
          something coarser to see all.
        </p>
      )}
    </div>
  );
}

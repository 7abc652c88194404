import {
  figureLabel,
  canOverlap,
  objectType,
  type FieldValue,
  type ReportDesign,
  type ReportFigure,
  type RowPlace,
} from '@zawn/core';
import '../../kernel/drawings/drawings.css';
import { BarChart } from '../../kernel/drawings/bar-chart';
import { type Drawn } from '../../kernel/drawings/drawn';
import { keyLabel } from '../../kernel/drawings/key-label';
import { LineChart } from '../../kernel/drawings/line-chart';
import { counted } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { drawnFigure, figuresTogether, firstRows, reportFigureText } from './figures';
import { type ReportPart } from './report-part';
import { AreaChart } from './charts/area-chart';
import { FunnelChart } from './charts/funnel-chart';
import { GaugeChart } from './charts/gauge-chart';
import { HeatTable } from './charts/heat-table';
import { ScatterChart } from './charts/scatter-chart';
import { ShareChart } from './charts/share-chart';
import { SingleFigure } from './charts/single-figure';

/** Categories drawn; what there is beyond is in the table, and said. */
const MOST_DRAWN = 60;
/** Splits drawn apart. */
const MOST_SERIES = 9;

/** Whether a figure of several groups together is their sum. */
const isSum = (figure: ReportFigure) =>
  'measure' in figure ? ['count', 'sum'].includes(figure.measure.as) : 'past' in figure;

/** The drawing of a report: its outermost groups, split or beside other periods. */
export function ReportDrawingPart({ design, answer, wording, labels, addressOf }: ReportPart) {
  const { organisation } = useSession();
  const { catalogue } = wording;
  const { object, groups = [] } = design.question;
  const { split, draw, figures } = design;
  const drawn = drawnFigure(design);
  const together = split ? [drawn] : figuresTogether(design);
  const text = (value: number | null, figure = drawn) =>
    reportFigureText(value, figure, design, catalogue, labels.currency ?? organisation.currency);
  const all = answer.rows[0];
  const rows = firstRows(answer.rows);
  // The rest would dwarf the first ones; as a part of the whole it belongs there.
  const drawable = draw === 'share' ? rows : rows.filter(({ rest }) => rest === undefined);
  const shown = drawable.slice(0, MOST_DRAWN);
  const first = rows.filter(({ rest }) => rest === undefined).map(({ keys: [key] }) => key);
  const { label: one, plural } = objectType(object);
  const at = figures.indexOf(drawn);
  const splits = split ? answer.splits.slice(0, MOST_SERIES) : [];
  const nameOf = (row: (typeof rows)[number]) =>
    row.rest === undefined ? keyLabel(object, groups[0], row.keys[0], labels) : `The other ${row.rest}`;
  const placeOf = (index: number, key?: FieldValue): RowPlace => {
    const row = shown[index];
    return {
      keys: row.keys,
      figure: drawn,
      ...(key === undefined ? {} : { split: key }),
      ...(row.rest === undefined ? {} : { first }),
    };
  };
  const title = `${together.map((figure) => figureLabel(figure, design, catalogue)).join(' and ')}`;

  if (draw === 'gauge')
    return (
      <GaugeChart
        value={all.figures[at]}
        target={design.target}
        style={design.style}
        text={text}
        label={figureLabel(drawn, design, catalogue)}
        to={addressOf({ keys: [], figure: drawn })}
      />
    );
  if (draw === 'figure' || groups.length === 0)
    return (
      <SingleFigure
        value={text(all.figures[at])}
        label={figureLabel(drawn, design, catalogue)}
        to={addressOf({ keys: [], figure: drawn })}
        trend={shown.filter(({ rest }) => rest === undefined).map((row) => row.figures[at])}
        also={together.slice(1).map((figure) => ({
          label: figureLabel(figure, design, catalogue),
          value: text(all.figures[figures.indexOf(figure)], figure),
        }))}
      />
    );
  const series: Drawn['series'] = split
    ? splits.map((key, index) => ({
        keys: [key],
        isRest: false,
        label: keyLabel(object, split, key, labels),
        to: addressOf({ keys: [], figure: drawn, split: key }),
        points: shown.map((row) => ({
          value: row.split?.[index].figures[at] ?? null,
          count: row.split?.[index].count ?? 0,
        })),
      }))
    : together.map((figure) => ({
        keys: [figure.key],
        isRest: false,
        label: figureLabel(figure, design, catalogue),
        to: addressOf({ keys: [], figure }),
        points: shown.map((row) => ({
          value: row.figures[figures.indexOf(figure)],
          // What another period had is drawn where this one has nothing.
          count: Math.max(row.count, figure === drawn ? 0 : 1),
        })),
      }));
  const overlaps = canOverlap(catalogue, object, split ? [split] : []);
  const model: Drawn = {
    categories: shown.map((row, index) => ({
      key: row.keys[0] ?? null,
      label: nameOf(row),
      to: addressOf(placeOf(index)),
    })),
    series,
    words: (category, index, { value, count }) =>
      `${nameOf(shown[category])}, ${series[index].label}: ${text(value)}, ${counted(count, one.toLowerCase(), plural.toLowerCase())}`,
    to: (category, index) => addressOf(placeOf(category, split ? splits[index] : undefined)),
    text,
    addsUp: draw !== 'columns' && split !== undefined && isSum(drawn) && !overlaps,
    label: title,
    style: design.style,
  };
  const chart = () => {
    switch (draw) {
      case 'line':
        return <LineChart drawn={model} target={design.target} />;
      case 'area':
        return <AreaChart drawn={model} />;
      case 'share':
        return <ShareChart drawn={model} />;
      case 'funnel':
        return <FunnelChart drawn={model} />;
      case 'heat':
        return <HeatTable drawn={model} />;
      case 'scatter':
        return (
          <ScatterChart
            points={shown.map((row, index) => ({
              label: nameOf(row),
              x: row.figures[at],
              y: row.figures[otherAt(design)],
              to: addressOf(placeOf(index)),
            }))}
            x={{ label: figureLabel(drawn, design, catalogue), text: (value) => text(value) }}
            y={{
              label: figureLabel(figures[otherAt(design)], design, catalogue),
              text: (value) => text(value, figures[otherAt(design)]),
            }}
          />
        );
      default:
        return <BarChart drawn={model} upright={draw !== 'bars'} target={design.target} />;
    }
  };
  return (
    <>
      {chart()}
      {drawable.length > shown.length && (
        <p className="left-out">
          The first {shown.length} of {drawable.length} are drawn; the table has all.
        </p>
      )}
      {rows.length > drawable.length && <p className="second">The rest is not drawn; the table has it.</p>}
      {answer.splits.length > MOST_SERIES && split && (
        <p className="left-out">
          The first {MOST_SERIES} of {answer.splits.length} are drawn apart; the table has all.
        </p>
      )}
    </>
  );
}

/** The figure a scatter sets the drawn one against: the next one, or the first. */
function otherAt(design: ReportDesign): number {
  const at = design.figures.indexOf(drawnFigure(design));
  return design.figures.length > at + 1 ? at + 1 : 0;
}

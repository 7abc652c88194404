import { figureLabel, type ComparedRow, type ReportDesign, type ReportFigure } from '@zawn/core';
import '../../kernel/drawings/drawings.css';
import { BarChart } from '../../kernel/drawings/bar-chart';
import { type Drawn } from '../../kernel/drawings/drawn';
import { drawnFigure } from '../reports/figures';
import { type useFrozenPart } from './use-frozen-part';

/** Groups drawn; what there is beyond is in the table, and said. */
const MOST_DRAWN = 30;

interface Props {
  part: NonNullable<ReturnType<typeof useFrozenPart>>;
  rows: readonly ComparedRow[];
  /** The figure that is drawn, by its key; the report's own where none is looked at. */
  openedFigure: string | undefined;
  /** What the two moments are called. */
  moments: readonly [was: string, is: string];
  nameOf: (row: ComparedRow) => string;
  text: (value: number | null | undefined, figure: ReportFigure) => string;
  addressOf: (row: ComparedRow, figure: ReportFigure) => string;
}

/** The outermost groups at two moments, one beside the other; each mark opens what makes the difference. */
export function ComparedDrawing({ part, rows, openedFigure, moments, nameOf, text, addressOf }: Props) {
  const { design, labels } = part;
  const { figures } = design;
  const figure = figures.find(({ key }) => key === openedFigure) ?? drawnFigure(design);
  const at = figures.indexOf(figure);
  const outermost = rows.filter(({ keys, isRest }) => keys.length === 1 && !isRest);
  if (design.draw === 'none' || outermost.length === 0) return null;
  const shown = outermost.slice(0, MOST_DRAWN);
  const model: Drawn = {
    categories: shown.map((row) => ({
      key: row.keys[0],
      label: nameOf(row),
      to: addressOf(row, figure),
    })),
    series: (['was', 'is'] as const).map((side, index) => ({
      keys: [side],
      isRest: false,
      label: moments[index],
      to: addressOf({ keys: [], isRest: false }, figure),
      points: shown.map((row) => ({
        value: row[side]?.figures[at] ?? null,
        count: row[side]?.count ?? 0,
      })),
    })),
    words: (category, index, { value }) =>
      `${nameOf(shown[category])}, ${moments[index]}: ${text(value, figure)}`,
    to: (category) => addressOf(shown[category], figure),
    text: (value) => text(value, figure),
    addsUp: false,
    style: design.style,
    label: `${figureLabel(figure, design, labels.catalogue)}, ${moments.join(' and ')}`,
  };
  return (
    <div className="report-drawing">
      <BarChart drawn={model} upright={isUpright(design)} />
      {outermost.length > shown.length && (
        <p className="left-out">
          The first {shown.length} of {outermost.length} are drawn; the table has all.
        </p>
      )}
    </div>
  );
}

/** What goes on from left to right on the report does so here. */
const isUpright = ({ draw }: ReportDesign) => draw === 'columns' || draw === 'line' || draw === 'area';

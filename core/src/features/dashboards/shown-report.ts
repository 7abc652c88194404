import { type Catalogue, type ObjectKey } from '../../kernel/catalogue';
import { objectsRead } from '../../kernel/questions';
import { type ReportDesign } from '../reports/report';
import { type ReportTile, type TileLook } from './dashboard';

/** The report a tile shows: its own or the changed one before that which it names, drawn as the tile draws it. */
export function shownReport(
  { design, look }: ReportTile,
  named: ReportDesign | undefined,
): ReportDesign | undefined {
  const shown = design ?? named;
  return shown && look ? { ...shown, ...look } : shown;
}

const lookParts = ['draw', 'drawn', 'target', 'rounding', 'style'] as const;

const partsOf = (design: ReportDesign): [look: TileLook, asked: string] => {
  const { draw, drawn, target, rounding, style, ...asked } = design;
  return [{ draw, drawn, target, rounding, style }, JSON.stringify(asked)];
};

/**
 * A tile that shows a report as it was changed: drawn otherwise only, it still follows the report it names; asking
 * otherwise, it keeps a report of its own until that is put back.
 */
export function changedTile<T extends ReportTile>(
  tile: T,
  named: ReportDesign | undefined,
  next: ReportDesign,
): T {
  const { design: _design, look: _look, ...rest } = tile;
  if (!named) return { ...rest, design: next } as T;
  const [[was, askedThen], [is, askedNow]] = [partsOf(named), partsOf(next)];
  if (askedThen !== askedNow) return { ...rest, design: next } as T;
  const other = lookParts.filter((part) => JSON.stringify(was[part]) !== JSON.stringify(is[part]));
  const look = Object.fromEntries(other.map((part) => [part, is[part]]));
  return (other.length > 0 ? { ...rest, look } : rest) as T;
}

/** The objects that a report may change with, those of the records beside it too. */
export function readByReport(catalogue: Catalogue, { question, figures }: ReportDesign): ObjectKey[] {
  const measured = figures.flatMap((figure) => ('measure' in figure ? [figure] : []));
  const measures = measured.filter(({ beside }) => !beside).map(({ measure }) => measure);
  const besides = measured.flatMap(({ measure, beside }) =>
    beside
      ? [
          {
            version: 1 as const,
            object: beside.object,
            ...(beside.where ? { where: beside.where } : {}),
            measures: [measure],
          },
        ]
      : [],
  );
  return [
    ...new Set([{ ...question, measures }, ...besides].flatMap((each) => [...objectsRead(catalogue, each)])),
  ];
}

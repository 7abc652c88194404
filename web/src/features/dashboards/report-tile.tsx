import { useQuery } from '@tanstack/react-query';
import {
  knownReport,
  narrowedReport,
  objectType,
  readyReport,
  readByReport,
  recordsBehind,
  reportDesignOf,
  shownReport,
  type Names,
  type ReportDesign,
  type ReportTile as Content,
  type RowPlace,
} from '@zawn/core';
import { useMemo } from 'react';
import { type LabelContext } from '../../kernel/drawings/key-label';
import { LowestDrawing } from '../../kernel/drawings/use-size';
import { listAddress } from '../../kernel/questions/list-address';
import { Unrated } from '../../kernel/questions/unrated';
import { useWording } from '../../kernel/questions/use-wording';
import { reportAnswer } from '../../platform/api/queries';
import { Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { ForPaper } from '../../platform/theme/for-paper';
import { ReportDrawingPart } from '../reports/report-drawing';
import { keptReports } from '../reports/report-queries';
import { ReportTable } from '../reports/report-table';
import { TileTrouble } from './tile-trouble';
import { type TileProps } from './tile-props';

const NO_NAMES: Names = {};
/** Drawings in tiles are as high as these. */
const LOWEST = 110;

/** What a tile names: the report of that id or key, its name, and whether it is gone. */
export function useNamedReport({ report, ready, design }: Content): {
  name: string | undefined;
  design: ReportDesign | undefined;
  isGone: boolean;
  address: string | undefined;
} {
  const { data: kept } = useQuery({ ...keptReports, enabled: report !== undefined });
  if (ready !== undefined) {
    const found = readyReport(ready);
    return { name: found?.name, design: found?.design, isGone: !found, address: `/reports/${ready}` };
  }
  if (report === undefined) return { name: undefined, design, isGone: false, address: undefined };
  const found = kept?.find(({ id }) => id === report);
  return {
    name: found?.name,
    design: found && reportDesignOf(found),
    isGone: kept !== undefined && !found,
    address: `/reports/${report}`,
  };
}

/** A report on a dashboard: its drawing or its table, narrowed to what is chosen for all tiles. */
export function ReportTile({ tile, choice, ignore, isSeen }: TileProps<Content>) {
  const { catalogue, teams, organisation, today } = useSession();
  const named = useNamedReport(tile);
  const own = shownReport(tile, named.design);
  const narrowed = useMemo(
    () => own && narrowedReport(own, choice, { catalogue, teams }),
    [own, choice, catalogue, teams],
  );
  const asked = narrowed?.asked;
  const reads = useMemo(() => (asked ? readByReport(catalogue, asked) : []), [asked, catalogue]);
  const { data, error, refetch, isPlaceholderData } = useQuery({
    ...reportAnswer(asked as ReportDesign),
    meta: { reads },
    enabled: asked !== undefined && isSeen,
    retry: false,
  });
  const names = data?.answer.names ?? NO_NAMES;
  const wording = useWording(names);
  const labels = useMemo<LabelContext>(
    () => ({ catalogue, calendar: organisation, wording, names }),
    [catalogue, organisation, wording, names],
  );
  if (named.isGone && !tile.design) return <TileTrouble kind="gone" />;
  if (error) return <TileTrouble kind="refused" error={error} retry={() => void refetch()} />;
  if (!data || !narrowed) return <Skeleton rows={4} />;
  const { answer } = data;
  const design = knownReport(data.design, catalogue).design;
  const addressOf = (place: RowPlace) => {
    const behind = recordsBehind(design, { catalogue, calendar: organisation, today }, place);
    return listAddress(objectType(behind.object).path, behind);
  };
  const part = { design, answer, wording, labels, addressOf };
  const { shows } = tile;
  const all = answer.rows.at(0);
  const isDrawn = shows !== 'table' && design.draw !== 'none';
  return (
    <div className={`tile-report ${isPlaceholderData ? 'drawing-stale' : ''}`}>
      {ignore(narrowed.ignored)}
      {answer.leftOut.length > 0 && (
        <p className="left-out">
          A part of what this asks is not there, or not yours to see, and is left out.
        </p>
      )}
      <Unrated parts={answer.unrated.map(({ question, count }) => [question, count] as const)} />
      {!all || (all.count === 0 && !hasOthers(design)) ? (
        <p className="second tile-none">None in this choice.</p>
      ) : (
        <>
          {isDrawn && (
            <ForPaper className="tile-drawing">
              <LowestDrawing value={LOWEST}>
                <ReportDrawingPart {...part} />
              </LowestDrawing>
            </ForPaper>
          )}
          {(!isDrawn || shows === 'both') && <ReportTable {...part} furtherDown={() => undefined} />}
        </>
      )}
    </div>
  );
}

const hasOthers = ({ figures }: ReportDesign) =>
  figures.some((figure) => 'measure' in figure && figure.beside);

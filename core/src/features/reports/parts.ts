import { type Catalogue } from '../../kernel/catalogue';
import { runnable, subjectOf, type Grouping, type LeftOut, type Measure } from '../../kernel/questions';
import {
  type ComparedPeriod,
  type MeasuredFigure,
  type OtherRecords,
  type ReportDesign,
  type ReportFigure,
} from './report';
import { besideDesign } from './report-question';

/** One kind of records that a report measures: its own, or others beside them. */
export interface ReportPart {
  /** A report of these records, with the groups that are known of them. */
  design: ReportDesign;
  beside?: OtherRecords;
  /** What is measured of them, each once. */
  measures: Measure[];
}

/** The periods beside its own that a report needs. */
export function comparedIn({ figures, period }: ReportDesign): ComparedPeriod[] {
  if (!period) return [];
  const wanted = figures.flatMap((figure) =>
    'past' in figure ? [figure.of] : 'change' in figure ? [figure.against] : [],
  );
  return [...new Set(wanted)];
}

/**
 * A report without the groups and the split that its reader does not see, or that are gone: what is answered, and drawn.
 * What is left out is told; other parts are left out by the questions themselves.
 */
export function knownReport(
  design: ReportDesign,
  catalogue: Catalogue,
): { design: ReportDesign; leftOut: LeftOut[] } {
  const { split, ...rest } = design;
  const { groups = [] } = design.question;
  const subject = subjectOf(design.question);
  const partsGone = (grouping: Grouping) =>
    runnable({ ...subject, groups: [grouping] }, { catalogue, lists: [] }).leftOut;
  const isKnown = (grouping: Grouping) => partsGone(grouping).length === 0;
  return {
    design: {
      ...rest,
      question: { ...design.question, groups: groups.filter(isKnown) },
      ...(split && isKnown(split) ? { split } : {}),
    },
    leftOut: [...groups, ...(split ? [split] : [])].flatMap(partsGone),
  };
}

export const isMeasured = (figure: ReportFigure): figure is ReportFigure & MeasuredFigure =>
  'measure' in figure;

/** The measures that a report has of its own records, or of others beside them, each once. */
function measuresOf({ figures }: ReportDesign, beside?: OtherRecords): Measure[] {
  const name = JSON.stringify(beside);
  const own = figures.filter(isMeasured).filter((figure) => JSON.stringify(figure.beside) === name);
  return [...new Map(own.map(({ measure }) => [JSON.stringify(measure), measure])).values()];
}

/**
 * What a report is measured of: its own records first, then each other kind beside them that something is told of. What is
 * not known of those is left out, and told.
 * @param design a known one, see `knownReport`.
 */
export function reportParts(
  design: ReportDesign,
  catalogue: Catalogue,
): { parts: ReportPart[]; leftOut: LeftOut[] } {
  const parts: ReportPart[] = [{ design, measures: measuresOf(design) }];
  const leftOut: LeftOut[] = [];
  const seen = new Set<string>();
  for (const { beside } of design.figures.filter(isMeasured)) {
    const name = JSON.stringify(beside);
    if (!beside || beside.isUntold || seen.has(name)) continue;
    seen.add(name);
    const other = knownReport(besideDesign(design, beside), catalogue);
    leftOut.push(...other.leftOut);
    parts.push({ design: other.design, beside, measures: measuresOf(design, beside) });
  }
  return { parts, leftOut };
}

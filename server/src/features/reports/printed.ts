import { join } from 'node:path';
import type { Content, Node as PageNode, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { ratioText, roundedFigure, type ExportCell } from '@zawn/core';
import { lazyPackage, packageFolder } from '../../platform/lazy-package';
import { LANGUAGE, type FileColumn, type FileRow, type FileTable, type ReportTitle } from './report-table';

/** Columns that a page is wide enough for. */
const MOST_COLUMNS = 12;
const MARKED = '#fff3d6';

/** What a page has between its margins, in points. */
export const PAGE_WIDTH = 720;

/** How high a drawing is at most, in points: what it draws stands below it on the same page. */
const PICTURE_HEIGHT = 250;

/** A PNG as wide as a page, or as high as leaves room below it. */
export const printedPicture = (drawing: Buffer): Content => ({
  image: `data:image/png;base64,${drawing.toString('base64')}`,
  fit: [PAGE_WIDTH, PICTURE_HEIGHT],
  margin: [0, 12, 0, 0],
});

/** What stands above figures: a PNG of their drawing, or what is made of them for pages. */
export type Drawn = Buffer | Content;

/**
 * Figures as the content of pages: their title, their drawing where there is one, and their rows. What has more columns than a page is
 * wide comes in several tables, each with the names of its rows.
 */
export function printedTable(table: FileTable, title: ReportTitle, drawn: Drawn | undefined): Content[] {
  const columns = [...table.columns.keys()];
  const pagesWide = Math.max(1, Math.ceil(columns.length / MOST_COLUMNS));
  const each = Math.ceil(columns.length / pagesWide);
  return [
    { text: title.name, fontSize: 18, margin: [0, 0, 0, 4], tocItem: true, headlineLevel: 1 },
    ...[title.about, ...table.said].filter(Boolean).map((words) => ({ text: words, color: '#555555' })),
    ...(drawn ? [Buffer.isBuffer(drawn) ? printedPicture(drawn) : drawn] : []),
    ...Array.from({ length: pagesWide }, (_, at) =>
      printedColumns(table, columns.slice(at * each, (at + 1) * each)),
    ),
  ];
}

/** Some of the columns of figures, with the names of their rows. */
function printedColumns(table: FileTable, columns: readonly number[]): Content {
  const deepest = table.labelHeadings.length;
  const line = (row: FileRow): TableCell[] => {
    const look = { bold: row.depth < deepest, ...(row.isMarked ? { fillColor: MARKED } : {}) };
    return [
      { text: row.name, margin: [Math.max(0, row.depth - 1) * 10, 0, 0, 0], ...look },
      ...columns.map((index) => ({
        text: printedFigure(row.figures[index], table.columns[index], table),
        alignment: 'right' as const,
        ...look,
      })),
    ];
  };
  const head: TableCell[] = [
    { text: table.labelHeadings.join(', then '), bold: true },
    ...columns.map((index) => ({
      text: table.columns[index].heading,
      bold: true,
      alignment: 'right' as const,
    })),
  ];
  return {
    table: {
      headerRows: 1,
      // Headings alone at the foot of a page would say nothing.
      keepWithHeaderRows: 1,
      dontBreakRows: true,
      body: [head, ...table.rows.map(line), line(table.total)],
      widths: ['*', ...columns.map(() => 'auto')],
    },
    layout: 'lightHorizontalLines',
    fontSize: columns.length > 8 ? 7 : 9,
    margin: [0, 14, 0, 0],
  };
}

/** A figure as a page shows it; a change with its sign. */
function printedFigure(
  cell: ExportCell,
  { format, isChange }: FileColumn,
  { rounding, currency }: FileTable,
): string {
  if (cell.type !== 'number') return '–';
  const { number } = cell;
  if (!isChange) return inFormat(number, format, rounding, currency);
  if (number === 0) return '–';
  const size = Math.abs(number);
  const by =
    format === 'percent'
      ? `${Math.round(size * 1000) / 10} points`
      : inFormat(size, format, rounding, currency);
  return `${number > 0 ? '+' : '−'}${by}`;
}

function inFormat(
  number: number,
  format: FileColumn['format'],
  rounding: FileTable['rounding'],
  currency: string,
): string {
  if (format === 'percent') return `${Math.round(number * 100)}%`;
  if (format === 'ratio') return ratioText(number);
  const digits = { number: 2, decimal: 2, days: 1, money: 0 }[format];
  const { value, sign } = roundedFigure(number, rounding);
  const options = format === 'money' ? ({ style: 'currency', currency } as const) : {};
  const writer = new Intl.NumberFormat(LANGUAGE, {
    ...options,
    minimumFractionDigits: 0,
    maximumFractionDigits: sign ? 1 : digits,
  });
  return `${writer.format(value)}${sign}`;
}

/** What is used of the package; its types are those of its browser build. */
interface PdfMaker {
  setFonts: (fonts: object) => void;
  setLocalAccessPolicy: (policy: (path: string) => boolean) => void;
  setUrlAccessPolicy: (policy: (url: string) => boolean) => void;
  createPdf: (document: TDocumentDefinitions) => { getBuffer: () => Promise<Buffer> };
}

/** Where on a page a heading is too low to stand there without what it is of. */
const LOW = 0.5;

/** Whether a heading stands at the foot of a page, and what it is of on the next one. */
const isLeftAlone: TDocumentDefinitions['pageBreakBefore'] = (
  { headlineLevel, startPosition },
  { getFollowingNodesOnPage, getNodesOnNextPage },
) => {
  if (headlineLevel !== 1 || startPosition.verticalRatio < LOW) return false;
  const isShown = ({ table, image }: PageNode) => table !== undefined || image !== undefined;
  return !getFollowingNodesOnPage().some(isShown) && getNodesOnNextPage().some(isShown);
};

/** Lays content out on numbered pages. */
export async function pages(title: string, content: Content[]): Promise<Buffer> {
  const pdfmake = lazyPackage<PdfMaker>('pdfmake');
  const folder = join(packageFolder('pdfmake'), 'fonts', 'Roboto');
  pdfmake.setFonts({
    Roboto: {
      normal: join(folder, 'Roboto-Regular.ttf'),
      bold: join(folder, 'Roboto-Medium.ttf'),
      italics: join(folder, 'Roboto-Italic.ttf'),
      bolditalics: join(folder, 'Roboto-MediumItalic.ttf'),
    },
  });
  // Nothing but the fonts is read from here, and nothing is fetched.
  pdfmake.setLocalAccessPolicy((path) => path.startsWith(folder));
  pdfmake.setUrlAccessPolicy(() => false);
  const document: TDocumentDefinitions = {
    content,
    pageBreakBefore: isLeftAlone,
    pageOrientation: 'landscape',
    pageSize: 'A4',
    defaultStyle: { font: 'Roboto', fontSize: 10 },
    info: { title },
    footer: (page: number, of: number) => ({
      text: `${page} of ${of}`,
      alignment: 'right',
      margin: [0, 10, 40, 0],
      fontSize: 8,
    }),
  };
  return Buffer.from(await pdfmake.createPdf(document).getBuffer());
}

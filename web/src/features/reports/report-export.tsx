import { type ReportDesign, type ReportFileRequest } from '@zawn/core';
import { download, saveAs } from '../../platform/api/client';
import { drawingAsPng, drawingAsSvg, inBase64 } from './drawing-file';
import { ExportButton, figureFiles } from './export-button';

interface Props {
  design: ReportDesign;
  name: string;
  about: string;
}

/** Takes a report out: its figures as a file, or its drawing as a picture. */
export function ReportExport({ design, name, about }: Props) {
  const isDrawn = design.draw !== 'none';
  const files = [
    ...figureFiles,
    ...(isDrawn
      ? [
          { key: 'png', label: 'Drawing, PNG' },
          { key: 'svg', label: 'Drawing, SVG' },
        ]
      : []),
  ];
  const take = async (format: string) => {
    const drawing = document.querySelector('.report-drawing');
    if (format === 'svg' || format === 'png') {
      const svg = drawing && drawingAsSvg(drawing);
      const file =
        format === 'png'
          ? drawing && (await drawingAsPng(drawing))
          : svg && new Blob([svg.text], { type: 'image/svg+xml' });
      if (!file) throw new Error('There is no drawing to take out.');
      saveAs(file, `${name}.${format}`);
      return;
    }
    const png = drawing && format !== 'csv' ? await drawingAsPng(drawing) : undefined;
    const request: ReportFileRequest = {
      design,
      format: format as ReportFileRequest['format'],
      name,
      about,
      ...(png ? { drawing: await inBase64(png) } : {}),
    };
    await download('/reports/file', request);
  };
  return <ExportButton files={files} take={take} />;
}

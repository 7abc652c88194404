import { useQueryClient } from '@tanstack/react-query';
import { type Pack, type PackDesign, type PackFileRequest } from '@zawn/core';
import { useEffect, useRef } from 'react';
import { createPortal } from 'react-dom';
import { download } from '../../platform/api/client';
import { useNotices } from '../../platform/api/use-write';
import { drawingAsPng, inBase64 } from '../reports/drawing-file';
import { PageView } from './page-view';

interface Props {
  pack: Pack;
  design: PackDesign;
  done: () => void;
}

/** How long a page is waited for before it goes without its drawing. */
const PATIENCE_MS = 15_000;
const LOOK_EVERY_MS = 250;

/** Draws every page where nobody looks, takes the drawings, and has the pack made into one PDF. */
export function PackPdf({ pack, design, done }: Props) {
  const queryClient = useQueryClient();
  const { complain } = useNotices();
  const drawn = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const begun = Date.now();
    const take = async () => {
      const drawings: Record<string, string> = {};
      for (const page of drawn.current?.querySelectorAll<HTMLElement>('[data-page]') ?? []) {
        const tiles = page.querySelectorAll<HTMLElement>('[data-tile]');
        for (const drawn of tiles.length > 0 ? tiles : [page]) {
          const drawing = drawn.querySelector('.tile-drawing, .report-drawing');
          const png = drawing && (await drawingAsPng(drawing));
          const key = [page.dataset.page, drawn.dataset.tile].filter(Boolean).join('.');
          if (png) drawings[key] = await inBase64(png);
        }
      }
      const request: PackFileRequest = { drawings };
      await download(`/packs/${pack.id}/file`, request);
    };
    const timer = window.setInterval(() => {
      const isLoading = queryClient.isFetching() > 0 || Date.now() - begun < LOOK_EVERY_MS * 2;
      if (isLoading && Date.now() - begun < PATIENCE_MS) return;
      window.clearInterval(timer);
      take().catch(complain).finally(done);
    }, LOOK_EVERY_MS);
    return () => window.clearInterval(timer);
    // Begun once: what is looked at is what was there then.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  return createPortal(
    <div ref={drawn} className="pack-drawn" aria-hidden>
      {design.pages
        .filter(({ kind }) => kind !== 'note')
        .map((page) => (
          <div key={page.key} data-page={page.key}>
            <PageView page={page} choice={design.choice ?? {}} keep={{}} isPrinted />
          </div>
        ))}
    </div>,
    document.body,
  );
}

import { type NoteInPackRequest } from '@zawn/core';
import { Button } from 'antd';
import { ArrowLeft, ArrowRight, Flag, Gavel, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useOpening } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import '../dashboards/dashboards.css';
import { RecordsBeside } from '../reports/records-beside';
import '../reports/reports.css';
import { useBeside } from '../reports/use-beside';
import { FrozenRecords } from '../snapshots/frozen-records';
import { usePlace } from '../snapshots/place-address';
import '../snapshots/snapshots.css';
import { NoteDialog } from './note-dialog';
import { usePageName } from './page-name';
import { PageView, type ShownPage } from './page-view';
import { notedNames, pagesShown } from './pages-shown';
import './packs.css';
import { WithPack, type PackProps } from './with-pack';

/** A meeting pack over the whole screen, page by page; figures open, and what is decided is noted with one key. */
export function Component() {
  return <WithPack Show={Presented} />;
}

function Presented({ at, shown }: PackProps) {
  const [parameters, setParameters] = useSearchParams();
  const navigate = useNavigate();
  const { beside, openBeside, close } = useBeside();
  const { place, close: closePlace } = usePlace();
  const { opened } = useOpening();
  const [noting, setNoting] = useState<NoteInPackRequest['kind']>();
  const heading = useRef<HTMLHeadingElement>(null);
  const nameOf = usePageName(shown.design.pages);
  const pack = shown.kind === 'kept' ? shown.pack : undefined;
  const all = pagesShown(shown);
  const placeIn = (address: URLSearchParams) =>
    Math.max(
      0,
      all.findIndex(({ key }) => key === address.get('page')),
    );
  const index = placeIn(parameters);
  const page = all.at(index);
  const titleOf = (each: ShownPage) => (each.kind === 'noted' ? notedNames[each.key] : nameOf(each));
  const go = (step: 1 | -1) => {
    // Keys come faster than pages are drawn; the address of the window is ahead of what is on the screen.
    const to = placeIn(new URLSearchParams(window.location.search)) + step;
    const next = all.at(to);
    if (to < 0 || !next) return;
    close();
    // What was open belonged to the page before.
    setParameters({ page: next.key });
    heading.current?.focus();
  };
  const leave = () =>
    void navigate(`/packs/${at}${page ? `?${new URLSearchParams({ page: page.key }).toString()}` : ''}`);
  const step = () => {
    if (beside) close();
    else if (place) closePlace();
    else leave();
  };
  useEffect(() => {
    // Where the browser refuses, the frame of the page makes way all the same.
    document.documentElement.requestFullscreen().catch(() => undefined);
    return () => {
      if (document.fullscreenElement) void document.exitFullscreen();
    };
  }, []);
  useShortcuts('Presenting', [
    {
      keys: 'ArrowRight',
      also: 'PageDown',
      does: 'The next page (also Page down)',
      run: () => go(1),
      isFirst: true,
    },
    {
      keys: 'ArrowLeft',
      also: 'PageUp',
      does: 'The page before (also Page up)',
      run: () => go(-1),
      isFirst: true,
    },
    ...(pack
      ? [
          { keys: 'd', does: 'Note a decision on the record that is open', run: () => setNoting('decision') },
          { keys: 'f', does: 'Plan a follow-up on it', run: () => setNoting('followUp') },
        ]
      : []),
    { keys: 'Escape', does: 'Close the records, or end the presentation', run: step },
  ]);
  const side = beside ?? place;
  return (
    <div className={`presenting ${side ? 'report-page report-page-beside' : 'report-page'}`}>
      <div className="report">
        <header className="turning-head">
          <h1 className="clip" ref={heading} tabIndex={-1} aria-live="polite">
            {page ? titleOf(page) : 'No pages'}
          </h1>
          <span className="second">
            {shown.name}, {index + 1} of {all.length}
          </span>
          <div className="page-tools">
            {pack && (
              <>
                <Button type="text" icon={<Gavel size={15} />} onClick={() => setNoting('decision')}>
                  Decision <kbd>d</kbd>
                </Button>
                <Button type="text" icon={<Flag size={15} />} onClick={() => setNoting('followUp')}>
                  Follow-up <kbd>f</kbd>
                </Button>
              </>
            )}
            <Button
              type="text"
              icon={<ArrowLeft size={16} />}
              aria-label="The page before"
              disabled={index === 0 || undefined}
              onClick={() => go(-1)}
            />
            <Button
              type="text"
              icon={<ArrowRight size={16} />}
              aria-label="The next page"
              disabled={index >= all.length - 1 || undefined}
              onClick={() => go(1)}
            />
            <Button type="text" icon={<X size={16} />} aria-label="End the presentation" onClick={leave} />
          </div>
        </header>
        <div className="presented" onClickCapture={openBeside}>
          {page && <PageView page={page} choice={shown.design.choice ?? {}} keep={{ page: page.key }} />}
        </div>
      </div>
      {beside ? (
        <RecordsBeside question={beside} close={close} />
      ) : (
        place &&
        page?.kind === 'snapshot' && (
          <FrozenRecords snapshot={page.snapshot} place={place} close={closePlace} />
        )
      )}
      {noting && pack && (
        <NoteDialog pack={pack.id} kind={noting} on={opened} close={() => setNoting(undefined)} />
      )}
    </div>
  );
}

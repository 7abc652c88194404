import { objectType } from '@zawn/core';
import { ChevronDown, ChevronUp, Maximize2, X } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { oneRecord } from '../../platform/api/queries';
import { useState } from 'react';
import { useNotices } from '../../platform/api/use-write';
import { number } from '../../platform/frame/format';
import { useOpening, useResult, type Opened } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { RecordActions } from './record-actions';
import { RecordView } from './record-view';

/** A record beside the list it was opened from; next and previous walk through the same result. */
export default function Sheet({ opened }: { opened: Opened }) {
  const { object, id } = opened;
  const { open, close } = useOpening();
  const { result } = useResult();
  const { data } = useQuery(oneRecord(object, id));
  const { complain } = useNotices();
  const walkable = result?.object === object ? result : undefined;
  // Where the list has scrolled elsewhere, the place walked to is still known.
  const [walked, setWalked] = useState<{ id: number; place: number }>();
  const at = walkable && (walkable.placeOf(id) ?? (walked?.id === id ? walked.place : undefined));
  const count = walkable?.count ?? 0;
  const walk = (step: number) => {
    const place = (at ?? 0) + step;
    if (at === undefined || !walkable || place < 0 || place >= count) return;
    const go = (next: number | undefined) => {
      if (next === undefined) return;
      setWalked({ id: next, place });
      open(object, next, { replace: true });
    };
    const next = walkable.idAt(place);
    if (next instanceof Promise) next.then(go).catch(complain);
    else go(next);
  };
  const { label, path } = objectType(object);
  useShortcuts('Sheet', [
    { keys: 'Escape', does: 'Close the sheet', run: close },
    { keys: 'j', also: 'ArrowDown', does: 'Next of the same list', run: () => walk(1) },
    { keys: 'k', also: 'ArrowUp', does: 'The one before', run: () => walk(-1) },
  ]);
  return (
    <aside className="sheet" aria-label="Record">
      <div className="sheet-bar">
        <span className="sheet-kind">{label}</span>
        {at !== undefined && (
          <>
            <span className="second">
              {number(at + 1)} of {number(count)}
            </span>
            <button
              type="button"
              className="icon-button"
              onClick={() => walk(-1)}
              disabled={at === 0}
              aria-label="Previous"
            >
              <ChevronUp size={16} aria-hidden />
            </button>
            <button
              type="button"
              className="icon-button"
              onClick={() => walk(1)}
              disabled={at === count - 1}
              aria-label="Next"
            >
              <ChevronDown size={16} aria-hidden />
            </button>
          </>
        )}
        <span className="sheet-space" />
        {data && (
          <RecordActions
            key={`${object} ${id}`}
            object={object}
            record={data.record}
            may={data.may}
            leave={close}
          />
        )}
        <Link to={`/${path}/${id}`} className="icon-button" aria-label="Full page">
          <Maximize2 size={15} aria-hidden />
        </Link>
        <button type="button" className="icon-button" onClick={close} aria-label="Close">
          <X size={17} aria-hidden />
        </button>
      </div>
      <div className="sheet-body">
        <RecordView object={object} id={id} />
      </div>
    </aside>
  );
}

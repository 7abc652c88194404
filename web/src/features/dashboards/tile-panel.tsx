import {
  changedTile,
  LONGEST_NOTE,
  movementGroupNames,
  movementGroups,
  shownReport,
  type Design,
  type MovementGroup,
  type MovementTile,
  type Names,
  type ReportTile,
  type Tile,
  type TileContent,
} from '@zawn/core';
import { Button, Input, Segmented, Select } from 'antd';
import { X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useWording } from '../../kernel/questions/use-wording';
import { Sentence } from '../../kernel/sentence/sentence';
import { MoveButtons } from '../../platform/frame/move-buttons';
import { ReportClauses } from '../reports/clauses';
import { AddTile } from './add-tile';
import { useNamedReport } from './report-tile';
import { useTileName } from './tile-frame';

const NO_NAMES: Names = {};

interface Props {
  tile: Tile;
  /** Its place in the order of importance, from 0, among how many. */
  at: number;
  count: number;
  change: (tile: Tile) => void;
  move: (step: 1 | -1) => void;
  close: () => void;
}

/** A tile with something else in it, at its place. */
const withContent = ({ key, at }: Tile, content: TileContent): Tile => ({ ...content, key, at });

/** What can be changed of a tile, beside it; the tile follows every change. */
export function TilePanel({ tile, at, count, change, move, close }: Props) {
  const name = useTileName(tile);
  const [isPicking, setPicking] = useState(false);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), [tile.key]);
  const { title: _title, ...untitled } = tile;
  return (
    <aside
      className="records-beside tile-panel"
      aria-label={`The tile “${name}”`}
      onKeyDown={(event) => {
        // What is open over it closes by itself.
        const isInside = event.currentTarget.contains(event.target as Node);
        if (event.key === 'Escape' && isInside) close();
      }}
    >
      <header>
        <h2 ref={heading} tabIndex={-1}>
          {name}
        </h2>
        <button type="button" className="icon-button" onClick={close} aria-label="Close what is changed">
          <X size={16} aria-hidden />
        </button>
      </header>
      <div className="tile-panel-body">
        <label className="figure-field">
          <span>Title</span>
          <Input
            maxLength={80}
            placeholder={name}
            value={tile.title ?? ''}
            onChange={(event) =>
              change(event.target.value === '' ? untitled : { ...tile, title: event.target.value })
            }
          />
        </label>
        {tile.kind === 'note' && (
          <label className="figure-field">
            <span>Note</span>
            <Input.TextArea
              autoSize={{ minRows: 4, maxRows: 16 }}
              maxLength={LONGEST_NOTE}
              value={tile.text}
              onChange={(event) => change({ ...tile, text: event.target.value })}
            />
          </label>
        )}
        {tile.kind === 'report' && <ReportPart tile={tile} change={change} />}
        {tile.kind === 'movement' && <MovementPart tile={tile} change={change} />}
        <p>
          <Button onClick={() => setPicking(true)}>Show something else…</Button>
        </p>
        <p className="tile-order second">
          On a phone it is number {at + 1} of {count}
          <MoveButtons name={name} at={at} count={count} move={move} words={['earlier', 'later']} />
        </p>
      </div>
      {isPicking && (
        <AddTile
          title="Show in this tile"
          pick={(content) => {
            change(withContent(tile, content));
            setPicking(false);
          }}
          close={() => setPicking(false)}
        />
      )}
    </aside>
  );
}

/** The question of a report on a tile, and how it is drawn. */
function ReportPart({
  tile,
  change,
}: {
  tile: ReportTile & Pick<Tile, 'key' | 'at' | 'title'>;
  change: (tile: Tile) => void;
}) {
  const wording = useWording(NO_NAMES);
  const named = useNamedReport(tile);
  const shown = shownReport(tile, named.design);
  if (!shown) return null;
  const isNamed = named.design !== undefined && (tile.report !== undefined || tile.ready !== undefined);
  const isChanged = isNamed && (tile.design !== undefined || tile.look !== undefined);
  const put = (next: typeof shown) => change(changedTile(tile, isNamed ? named.design : undefined, next));
  const { design: _design, look: _look, ...plain } = tile;
  return (
    <>
      <Sentence
        design={{ question: shown.question, draw: 'table' } satisfies Design}
        onChange={({ question }) => put({ ...shown, question })}
        wording={wording}
        leftOut={[]}
        mostGroups={3}
        rest={<ReportClauses design={shown} onChange={put} wording={wording} />}
      />
      <label className="figure-field">
        <span>Shown as</span>
        <Segmented
          value={tile.shows ?? 'drawing'}
          options={[
            { value: 'drawing', label: 'Drawing' },
            { value: 'table', label: 'Table' },
            { value: 'both', label: 'Both' },
          ]}
          onChange={(value) => {
            const { shows: _shows, ...rest } = tile;
            change(value === 'drawing' ? rest : { ...rest, shows: value as 'table' | 'both' });
          }}
        />
      </label>
      {isChanged && (
        <p>
          <Button onClick={() => change(plain)}>
            Put back {named.name ? `to “${named.name}”` : 'as it was'}
          </Button>
        </p>
      )}
    </>
  );
}

function MovementPart({
  tile,
  change,
}: {
  tile: MovementTile & Pick<Tile, 'key' | 'at' | 'title'>;
  change: (tile: Tile) => void;
}) {
  return (
    <label className="figure-field">
      <span>Its page shows it</span>
      <Select<MovementGroup>
        value={tile.by ?? 'owner'}
        options={movementGroups.map((by) => ({ value: by, label: movementGroupNames[by] }))}
        onChange={(by) => change({ ...tile, by })}
      />
    </label>
  );
}

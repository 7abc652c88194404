import { type RecordOf } from '@zawn/core';
import { scaleLinear } from 'd3-scale';
import { stack } from 'd3-shape';
import { max } from 'd3-array';
import { Link } from 'react-router';
import { counted, shortMoney } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { useTheme } from '../../platform/theme/theme';
import { totalOf, type Segment } from './pipeline-figures';

interface Props {
  stages: readonly RecordOf<'stage'>[];
  owners: readonly number[];
  segments: readonly Segment[];
  /** The address of the deals behind a segment, or behind a whole stage. */
  listOf: (stage: number, owner?: number) => string;
}

const BAR = 24;
const GAP = 12;

/** Open value by stage as bars, each owner a segment; the last stage stands on top, as in the grid. */
export function StageBars({ stages, owners, segments, listOf }: Props) {
  const { organisation, person } = useSession();
  const colours = useTheme().series(owners.length);
  const rising = [...stages].reverse();
  const rows = rising.map(({ id }) => ({
    stage: id,
    of: new Map(segments.filter(({ stage }) => stage === id).map((each) => [each.owner, each])),
  }));
  const layers = stack<(typeof rows)[number], number>()
    .keys(owners)
    .value(({ of }, owner) => of.get(owner)?.value ?? 0)(rows);
  const widest = max(rows, ({ of }) => totalOf([...of.values()]).value) ?? 0;
  const x = scaleLinear([0, widest || 1], [0, 100]);
  const height = rising.length * (BAR + GAP);
  return (
    <div className="stage-bars">
      <ul className="bar-labels" aria-label="Open value by stage">
        {rising.map(({ id, name }) => {
          const total = totalOf(segments.filter(({ stage }) => stage === id));
          return (
            <li key={id} style={{ height: BAR + GAP }}>
              <span className="clip">{name}</span>
              <Link
                to={listOf(id)}
                className="figure"
                aria-label={`${name}: ${counted(total.count, 'deal')}, ${shortMoney(total.value, organisation.currency)}`}
              >
                {shortMoney(total.value, organisation.currency)}
              </Link>
            </li>
          );
        })}
      </ul>
      <svg width="100%" height={height} role="group" aria-label="Open value by stage and owner">
        {layers.map((layer, index) =>
          layer.map(([from, to], row) => {
            if (to <= from) return null;
            const { stage, of } = rows[row];
            const segment = of.get(layer.key);
            const words = `${rising[row].name}, ${person(layer.key)?.name}: ${counted(segment?.count ?? 0, 'deal')}, ${shortMoney(to - from, organisation.currency)}`;
            return (
              <Link key={`${layer.key} ${stage}`} to={listOf(stage, layer.key)} aria-label={words}>
                <rect
                  className="bar-segment"
                  x={`${x(from)}%`}
                  y={row * (BAR + GAP) + GAP / 2}
                  width={`${x(to) - x(from)}%`}
                  height={BAR}
                  fill={colours[index % colours.length]}
                >
                  <title>{words}</title>
                </rect>
              </Link>
            );
          }),
        )}
      </svg>
    </div>
  );
}

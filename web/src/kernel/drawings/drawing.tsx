import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  behind,
  canOverlap,
  completeQuestion,
  drawnMeasure,
  figuresIn,
  groupingInWords,
  keyCondition,
  measureInWords,
  objectType,
  type Design,
  type FieldValue,
  type Measure,
  type Question,
  type Wording,
} from '@zawn/core';
import { useMemo, type ReactNode } from 'react';
import { figureAnswers } from '../../platform/api/queries';
import { counted } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../questions/list-address';
import { Unrated } from '../questions/unrated';
import { useSession } from '../../platform/sessions/session';
import { BarChart } from './bar-chart';
import { addsUp, chartFigures } from './chart-figures';
import './drawings.css';
import { type Drawn } from './drawn';
import { figureText, keyLabel, type LabelContext } from './key-label';
import { LineChart } from './line-chart';
import { Pivot } from './pivot';

/** The answer of a design as a chart or a pivot. Every segment, cell and figure opens its records. */
export function Drawing({ design, wording, empty }: { design: Design; wording: Wording; empty: ReactNode }) {
  const { catalogue, organisation } = useSession();
  const question = useMemo(() => completeQuestion(catalogue, design.question), [catalogue, design.question]);
  const { object, groups = [], measures = [] } = question;
  const whole = useMemo(() => figuresIn({ ...design, question }), [design, question]);
  // The edges of a pivot are figures of their own: averages and shares do not add up.
  const edges = useMemo<Question[]>(
    () => [
      whole,
      { ...whole, groups: groups.slice(0, 1) },
      { ...whole, groups: groups.slice(1, 2) },
      { ...whole, groups: [] },
    ],
    [whole, groups],
  );
  // The series of a chart stand in their own order, whichever comes first along the axis.
  const bySeries = useMemo<Question>(
    () => ({ ...whole, groups: groups.slice(1, 2), measures: [{ as: 'count' }] }),
    [whole, groups],
  );
  const { data, error, refetch, isPlaceholderData } = useQuery(
    figureAnswers(
      design.draw === 'pivot' ? edges : groups.length > 1 ? [whole, bySeries] : [whole],
      'leftOut',
    ),
  );
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={10} />;
  const [answer] = data;
  const labels: LabelContext = { catalogue, calendar: organisation, wording, names: answer.names };
  const { path } = objectType(object);
  const openAt = (...keys: (FieldValue | undefined)[]) =>
    listAddress(path, behind(question, keys, catalogue, organisation));
  if (answer.rows.length === 0 || (groups.length === 0 && answer.rows[0].figures[0] === 0)) return empty;
  if (design.draw === 'pivot') {
    return (
      <div className={`pivot-room ${isPlaceholderData ? 'drawing-stale' : ''}`}>
        <Pivot
          answers={data}
          question={question}
          measures={measures.length > 0 ? measures : [{ as: 'count' }]}
          labels={labels}
          rounding={design.rounding}
          openAt={openAt}
        />
      </div>
    );
  }
  const measure: Measure = drawnMeasure({ ...design, question });
  const at = measures.length > 0 ? (design.drawn ?? 0) + 1 : 0;
  const text = (value: number | null) =>
    figureText(value, measure, object, labels, organisation.currency, design.rounding);
  const order = data.at(1)?.rows.map(({ keys: [key] }) => key);
  const { categories, series } = chartFigures(
    answer.rows,
    { object, groups, at, as: measure.as, order },
    catalogue,
    organisation,
  );
  const overlap = canOverlap(catalogue, object, groups.slice(1));
  const named = (index: 0 | 1, key: FieldValue) =>
    groups[index] ? keyLabel(object, groups[index], key, labels) : objectType(object).plural;
  const { label: one, plural } = objectType(object);
  /** The records of several keys of the second group together. */
  const openRest = (category: FieldValue | undefined, keys: readonly FieldValue[]) => {
    const of = keys
      .map((key) => keyCondition(catalogue, object, groups[1], key, organisation))
      .filter((each) => each !== undefined);
    const inCategory = behind(question, [category], catalogue, organisation);
    return listAddress(path, { ...inCategory, where: allOf(inCategory.where, { join: 'any', of }) });
  };
  const drawn: Drawn = {
    categories: categories.map((key) => ({ key, label: named(0, key), to: openAt(key) })),
    series: series.map((each) => ({
      ...each,
      label: each.isRest
        ? `${each.keys.length} others${['average', 'median', 'percentile', 'distinct'].includes(measure.as) || (overlap && addsUp(measure.as)) ? ', not drawn' : ''}`
        : named(1, each.keys[0]),
      to: each.isRest
        ? openRest(undefined, each.keys)
        : openAt(undefined, groups[1] ? each.keys[0] : undefined),
    })),
    words: (category, index, point) =>
      [
        named(0, categories[category]),
        groups[1] ? (series[index].isRest ? 'others' : named(1, series[index].keys[0])) : undefined,
      ]
        .filter(Boolean)
        .join(', ') +
      `: ${counted(point.count, one.toLowerCase(), plural.toLowerCase())}, ${text(point.value)}`,
    to: (category, index) =>
      series[index].isRest
        ? openRest(categories[category], series[index].keys)
        : openAt(categories[category], groups[1] ? series[index].keys[0] : undefined),
    text,
    addsUp: addsUp(measure.as) && !overlap,
    label: `${measureInWords(catalogue, object, measure)}${groups.length > 0 ? ` by ${groups.map((each) => groupingInWords(catalogue, object, each)).join(' and ')}` : ''}`,
  };
  return (
    <div className={`drawing ${isPlaceholderData ? 'drawing-stale' : ''}`}>
      <Unrated parts={[[question, answer.unrated]]} />
      {answer.isCut && (
        <p className="left-out">There are more groups than are drawn. Group by something coarser.</p>
      )}
      {design.draw === 'line' ? (
        <LineChart drawn={drawn} />
      ) : (
        <BarChart drawn={drawn} upright={design.draw === 'columns'} />
      )}
    </div>
  );
}

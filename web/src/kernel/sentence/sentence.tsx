import {
  isCustomKey,
  drawingsFor,
  fieldAt,
  groupingFor,
  groupingInWords,
  hasPast,
  isDated,
  measureInWords,
  objectType,
  overlapInWords,
  pathInWords,
  periodUnits,
  unitInWords,
  type Design,
  type Drawing,
  type Grouping,
  type LeftOut,
  type Measure,
  type Question,
  type Sort,
  type Wording,
} from '@zawn/core';
import { useRef, type ReactNode } from 'react';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { GroupPart } from './condition';
import { fieldOptions, groupOptions, measureOptions } from './field-options';
import { asGroup, fromGroup } from './groups';
import './sentence.css';
import { AsOfClause, AsOfNote } from './as-of';
import { PickToken } from './pick-token';
import { lazyPart } from '../../platform/frame/lazy-part';
import { Comma, Said, Token } from './token';

const TypedQuestion = lazyPart(async () => (await import('../asking/typed-question')).default);

interface Props {
  design: Design;
  onChange: (design: Design) => void;
  wording: Wording;
  leftOut: readonly LeftOut[];
  /** What else is done with the whole question, at its end. */
  tools?: ReactNode;
  /** So many groups within each other. */
  mostGroups?: number;
  /** What follows the groups, where that is not the figures, the order and the drawing of a view. */
  rest?: ReactNode;
  /** Whether it can be asked as it stood on a day. */
  looksBack?: boolean;
  /** Where a whole question can be typed: it is shown here, or on a page of its own. */
  typed?: 'here' | 'elsewhere';
}

const drawingNames: Record<Drawing, string> = {
  table: 'a table',
  columns: 'columns',
  bars: 'bars',
  line: 'a line',
  pivot: 'a pivot',
  grid: 'the deal grid',
};

/** Replaces, or takes out, one element of a list. */
function withAt<T>(all: readonly T[], index: number, next: T | undefined): T[] {
  return all.flatMap((each, at) => (at !== index ? [each] : next === undefined ? [] : [next]));
}

/** How the directions of an order are called, by what is ordered. */
function directions(isDate: boolean): [ascending: string, descending: string] {
  return isDate ? ['earliest first', 'latest first'] : ['lowest first', 'highest first'];
}

/**
 * The one editor for a question: it reads as English, and each part is changed where it stands. Every change is
 * told at once; nothing waits to be applied.
 */
export function Sentence(props: Props) {
  const { design, onChange, wording, leftOut, tools, mostGroups = 2, rest, looksBack = true, typed } = props;
  const { question } = design;
  const { object, groups = [], measures = [], sort = [] } = question;
  const overlap = overlapInWords(wording.catalogue, object, groups);
  const { catalogue } = wording;
  const isChart = design.draw !== 'table' && design.draw !== 'grid';
  const set = (more: Partial<Question>) => onChange({ ...design, question: { ...question, ...more } });
  const setWhere = (where: Question['where']) => {
    const { where: _where, ...rest } = question;
    onChange({ ...design, question: where ? { ...rest, where } : rest });
  };
  const setGroup = (index: number, next: Grouping | undefined) =>
    set({ groups: withAt(groups, index, next) });
  const setMeasure = (index: number, next: Measure | undefined) =>
    set({ measures: withAt(measures, index, next) });
  const setSort = (index: number, next: Sort | undefined) => set({ sort: withAt(sort, index, next) });
  const words = (measure: Measure) => measureInWords(catalogue, object, measure);
  const first = useRef<HTMLDivElement>(null);
  useShortcuts('List', [
    {
      keys: 'q',
      does: 'Into the sentence; the arrows go along it',
      run: () => first.current?.querySelector<HTMLElement>('.token')?.focus(),
    },
  ]);

  const groupToken = (grouping: Grouping, index: number) => {
    const field = fieldAt(catalogue, object, grouping.field);
    const dated = field !== undefined && isDated(field.type);
    return (
      <span className="run" key={grouping.field}>
        {index > 0 && <Said>, then</Said>}
        <PickToken
          kind="field"
          label={index === 0 ? 'Grouped by' : 'Then by'}
          onRemove={() => setGroup(index, undefined)}
          list="Group by"
          options={[
            ...(dated
              ? periodUnits.map((by) => ({
                  key: by,
                  label: `by ${unitInWords(by)}`,
                  value: { field: grouping.field, by },
                  group: field.label,
                }))
              : []),
            ...groupOptions(catalogue, object).map((option) => ({
              ...option,
              value: groupingFor(catalogue, object, option.value),
            })),
            { key: 'none', label: 'not grouped', value: undefined, group: 'Or' },
          ]}
          onPick={(next) => {
            setGroup(index, next);
          }}
        >
          {groupingInWords(catalogue, object, grouping)}
        </PickToken>
      </span>
    );
  };

  const shown = (
    <>
      {(groups.length > 0 || isChart) && (
        <span className="clause">
          <Said>showing</Said>
          {measures.map((measure, index) => (
            <span className="run" key={JSON.stringify(measure)}>
              <PickToken
                kind="value"
                label="Showing"
                onRemove={() => setMeasure(index, undefined)}
                list="Show"
                options={measureOptions(catalogue, object, words)}
                onPick={(next) => {
                  setMeasure(index, next);
                }}
              >
                {words(measure)}
              </PickToken>
              {index < measures.length - 1 && <Comma />}
            </span>
          ))}
          <PickToken
            kind="add"
            label="Show a figure"
            list="Show a figure"
            options={measureOptions(catalogue, object, words)}
            onPick={(measure) => {
              set({
                measures: [...measures.filter((each) => words(each) !== words(measure)), measure].slice(0, 6),
              });
            }}
          >
            {measures.length === 0 ? words({ as: 'count' }) : 'and…'}
          </PickToken>
        </span>
      )}
      {!isChart && design.draw !== 'grid' && (
        <span className="clause">
          {sort.length > 0 && <Said>in order of</Said>}
          {sort.map((each, index) => {
            const type = fieldAt(catalogue, object, each.field)?.type;
            const [ascending, descending] = directions(type !== undefined && isDated(type));
            const name = pathInWords(catalogue, object, each.field) ?? 'a field that is gone';
            return (
              <span className="run" key={each.field}>
                <PickToken
                  kind="field"
                  label={index === 0 ? 'In order of' : 'Then in order of'}
                  onRemove={() => setSort(index, undefined)}
                  list="Order"
                  options={[
                    { key: 'up', label: ascending, value: { field: each.field }, group: name },
                    {
                      key: 'down',
                      label: descending,
                      value: { field: each.field, descending: true } as Sort,
                      group: name,
                    },
                    ...fieldOptions(catalogue, object).map((option) => ({
                      ...option,
                      value: { field: option.value },
                    })),
                  ]}
                  onPick={(next) => {
                    setSort(index, next);
                  }}
                >
                  {each.descending ? `${name}, ${descending}` : name}
                </PickToken>
                {index < sort.length - 1 && <Said>, then</Said>}
              </span>
            );
          })}
          {sort.length < 4 && (
            <PickToken
              kind="add"
              label="Order by"
              list="Order by"
              options={fieldOptions(catalogue, object)}
              onPick={(path) => {
                set({ sort: [...sort.filter(({ field }) => field !== path), { field: path }] });
              }}
            >
              {sort.length === 0 ? 'in order of…' : 'then…'}
            </PickToken>
          )}
        </span>
      )}
      <span className="clause">
        <Said>as</Said>
        <PickToken
          kind="value"
          label="Drawn as"
          list="Drawn as"
          options={drawingsFor(question).map((draw) => ({
            key: draw,
            label: drawingNames[draw],
            value: draw,
          }))}
          onPick={(draw) => {
            onChange({ ...design, draw });
          }}
        >
          {drawingNames[design.draw]}
        </PickToken>
        {isChart && <Rounding design={design} onChange={onChange} words={words} />}
      </span>
    </>
  );
  return (
    <div ref={first} className="sentence" role="group" aria-label="The question">
      <span className="clause">
        <Said>{objectType(object).plural}</Said>
        <Said>{question.where ? 'where' : ''}</Said>
        <GroupPart
          object={object}
          condition={asGroup(question.where)}
          onChange={(group) => setWhere(fromGroup(group))}
          onRemove={() => setWhere(undefined)}
          wording={wording}
          isFresh={false}
          nesting="top"
        />
      </span>
      <span className="clause">
        {groups.length > 0 && <Said>by</Said>}
        {groups.map(groupToken)}
        {groups.length < mostGroups && design.draw !== 'grid' && (
          <PickToken
            kind="add"
            label="Group by"
            list="Group by"
            options={groupOptions(catalogue, object)}
            onPick={(path) => {
              set({
                groups: [
                  ...groups.filter(({ field }) => field !== path),
                  groupingFor(catalogue, object, path),
                ],
              });
            }}
          >
            {groups.length === 0 ? 'grouped by…' : 'then by…'}
          </PickToken>
        )}
      </span>
      {rest ?? shown}
      {looksBack && hasPast(object) && (design.draw !== 'grid' || question.asOf !== undefined) && (
        <AsOfClause question={question} onChange={(next) => onChange({ ...design, question: next })} />
      )}
      {typed && (
        <Token
          kind="add"
          label="Type the question"
          picker={(close, letters) => (
            <TypedQuestion
              design={design}
              onChange={onChange}
              isElsewhere={typed === 'elsewhere'}
              close={close}
              typed={letters}
            />
          )}
        >
          or type it…
        </Token>
      )}
      {tools}
      {question.asOf !== undefined && <AsOfNote asOf={question.asOf} />}
      {overlap && <p className="second overlap">{overlap}</p>}
      {leftOut.length > 0 && (
        <p className="left-out" role="status">
          {leftOut.length === 1 ? 'One part was' : `${leftOut.length} parts were`} left out:{' '}
          {leftOut
            .map(({ part, reason, label = part }) => {
              if (reason === 'notInPast') return `${label}, of which no log is kept`;
              if (reason === 'beforeLog')
                return `everything: nothing is on file from before ${wording.day(part)}`;
              return reason === 'unknownList'
                ? 'a list that is gone or not shared with you'
                : `the field “${part}”, which is ${isCustomKey(part) ? 'gone' : 'not yours to see'}`;
            })
            .join('; ')}
          . The rest is shown.
          {leftOut.some(({ at }) => at === 'where') &&
            ' These are more records than were asked for, so nothing is done to all of them until that part is mended or removed.'}
        </p>
      )}
    </div>
  );
}

/** Which of several measures is drawn, and what figures are rounded to. */
function Rounding({
  design,
  onChange,
  words,
}: Pick<Props, 'design' | 'onChange'> & { words: (measure: Measure) => string }) {
  const { measures = [] } = design.question;
  const { rounding: _rounding, ...plain } = design;
  return (
    <>
      {measures.length > 1 && design.draw !== 'pivot' && (
        <PickToken
          label="Drawn figure"
          list="Draw"
          options={measures.map((measure, index) => ({
            key: String(index),
            label: words(measure),
            value: index,
          }))}
          onPick={(drawn) => {
            onChange({ ...design, drawn });
          }}
        >
          {`of ${words(measures[design.drawn ?? 0] ?? measures[0])}`}
        </PickToken>
      )}
      <PickToken
        kind={design.rounding ? 'value' : 'add'}
        label="Rounded to"
        list="Rounded to"
        options={[
          { key: 'exact', label: 'exact', value: undefined },
          { key: 'thousands', label: 'in thousands', value: 'thousands' as const },
          { key: 'millions', label: 'in millions', value: 'millions' as const },
        ]}
        onPick={(rounding) => {
          onChange(rounding ? { ...plain, rounding } : plain);
        }}
      >
        {design.rounding ? `in ${design.rounding}` : 'exact'}
      </PickToken>
    </>
  );
}

import {
  figureLabel,
  fieldAt,
  groupingFor,
  groupingInWords,
  isDated,
  pathInWords,
  periodUnits,
  reportDrawingNames,
  reportDrawings,
  reportPeriodInWords,
  unitInWords,
  type ReportDesign,
  type ReportPeriod,
  type Wording,
} from '@zawn/core';
import { fieldOptions, groupOptions } from '../../kernel/sentence/field-options';
import { OperandPicker } from '../../kernel/sentence/operand-picker';
import { PickToken } from '../../kernel/sentence/pick-token';
import { Comma, Said, Token } from '../../kernel/sentence/token';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { FigureForm } from './figure-form';
import { freeKey, drawnFigure } from './figures';
import { KeepForm } from './keep-form';
import { StyleForm, styleInWords } from './style-form';
import { TargetForm } from './target-form';

interface Props {
  design: ReportDesign;
  onChange: (design: ReportDesign) => void;
  wording: Wording;
}

/** A design without one of its parts, or with another in its place. */
function withPart<K extends keyof ReportDesign>(
  design: ReportDesign,
  key: K,
  part: ReportDesign[K] | undefined,
) {
  const { [key]: _part, ...rest } = design;
  return (part === undefined ? rest : { ...rest, [key]: part }) as ReportDesign;
}

const THIS_YEAR = { unit: 'fiscalYear', offset: 0 } as const;

function PeriodClause({ design, onChange, wording: { catalogue } }: Props) {
  const { object } = design.question;
  const { period } = design;
  const dates = fieldOptions(catalogue, object, ({ type }) => isDated(type));
  const field = period && fieldAt(catalogue, object, period.field);
  const set = (next: ReportPeriod | undefined) => onChange(withPart(design, 'period', next));
  if (!period || !field)
    return (
      <span className="clause">
        <PickToken
          kind="add"
          label="Over a period"
          list="Over a period of"
          options={dates}
          onPick={(path) => set({ field: path, in: THIS_YEAR })}
        >
          over a period…
        </PickToken>
      </span>
    );
  return (
    <span className="clause">
      <Said>over</Said>
      <PickToken
        kind="field"
        label="Period of"
        list="Period of"
        options={dates}
        onRemove={() => set(undefined)}
        onPick={(path) => set({ ...period, field: path })}
      >
        {pathInWords(catalogue, object, period.field) ?? 'a date'}
      </PickToken>
      <Said>in</Said>
      <Token
        label="Period"
        onRemove={() => set(undefined)}
        picker={(close, typed) => (
          <OperandPicker
            label="Period"
            field={field}
            is="in"
            value={'from' in period.in ? undefined : period.in}
            onChange={(value) => value !== undefined && set({ ...period, in: value as ReportPeriod['in'] })}
            close={close}
            typed={typed}
          />
        )}
      >
        {reportPeriodInWords(period.in, date)}
      </Token>
    </span>
  );
}

function SplitClause({ design, onChange, wording: { catalogue } }: Props) {
  const { object, groups = [] } = design.question;
  const { split } = design;
  if (groups.length === 0 && !split) return null;
  const field = split && fieldAt(catalogue, object, split.field);
  const options = groupOptions(catalogue, object).map((option) => ({
    ...option,
    value: groupingFor(catalogue, object, option.value),
  }));
  return (
    <span className="clause">
      {split && <Said>split by</Said>}
      <PickToken
        kind={split ? 'field' : 'add'}
        label="Split by"
        list="Split by"
        {...(split ? { onRemove: () => onChange(withPart(design, 'split', undefined)) } : {})}
        options={[
          ...(split && field && isDated(field.type)
            ? periodUnits.map((by) => ({
                key: by,
                label: `by ${unitInWords(by)}`,
                value: { field: split.field, by },
                group: field.label,
              }))
            : []),
          ...options,
        ]}
        onPick={(next) => onChange({ ...design, split: next })}
      >
        {split ? groupingInWords(catalogue, object, split) : 'split by…'}
      </PickToken>
    </span>
  );
}

function FiguresClause({ design, onChange, wording }: Props) {
  const { catalogue } = useSession();
  const { figures } = design;
  const setFigure = (index: number, next: ReportDesign['figures'][number] | undefined) =>
    onChange({
      ...design,
      figures: figures.flatMap((each, at) => (at !== index ? [each] : next === undefined ? [] : [next])),
    });
  return (
    <span className="clause">
      <Said>showing</Said>
      {figures.map((figure, index) => (
        <span className="run" key={figure.key}>
          <Token
            label={`Figure ${figure.key}`}
            {...(figures.length > 1 ? { onRemove: () => setFigure(index, undefined) } : {})}
            picker={(close) => (
              <FigureForm
                figure={figure}
                design={design}
                wording={wording}
                onChange={(next) => setFigure(index, next)}
                close={close}
              />
            )}
          >
            {figureLabel(figure, design, catalogue)}
          </Token>
          {index < figures.length - 1 && <Comma />}
        </span>
      ))}
      {figures.length < 12 && (
        <Token
          kind="add"
          label="Another figure"
          picker={(close) => (
            <FigureForm
              design={design}
              wording={wording}
              onChange={(next) => {
                onChange({ ...design, figures: [...figures, { ...next, key: freeKey(figures) }] });
                close();
              }}
              close={close}
            />
          )}
        >
          and…
        </Token>
      )}
    </span>
  );
}

/** The first so many groups that can be kept. */
const FIRSTS = [5, 10, 15, 20, 50, 100];

function OrderClause({ design, onChange }: Props) {
  const { catalogue } = useSession();
  const { figures, order, top, keep = [] } = design;
  if ((design.question.groups ?? []).length === 0) return null;
  const label = (key: string) => {
    const found = figures.find((each) => each.key === key);
    return found ? figureLabel(found, design, catalogue) : key;
  };
  const orders = figures
    .filter((figure) => !('running' in figure))
    .flatMap(({ key }) =>
      [true, false].map((descending) => ({
        key: `${key} ${descending}`,
        label: descending ? 'highest first' : 'lowest first',
        value: { figure: key, ...(descending ? { descending } : {}) },
        group: label(key),
      })),
    );
  return (
    <span className="clause">
      {order && <Said>in order of</Said>}
      <PickToken
        kind={order ? 'field' : 'add'}
        label="Order of the groups"
        list="In order of"
        {...(order ? { onRemove: () => onChange(withPart(design, 'order', undefined)) } : {})}
        options={orders}
        onPick={(next) => onChange({ ...design, order: next })}
      >
        {order ? `${label(order.figure)}, ${order.descending ? 'highest' : 'lowest'} first` : 'in order of…'}
      </PickToken>
      <PickToken
        kind={top === undefined ? 'add' : 'value'}
        label="The first"
        list="Only the first"
        {...(top === undefined ? {} : { onRemove: () => onChange(withPart(design, 'top', undefined)) })}
        options={FIRSTS.map((count) => ({ key: String(count), label: `the first ${count}`, value: count }))}
        onPick={(count) => onChange({ ...design, top: count })}
      >
        {top === undefined ? 'only the first…' : `the first ${top}, and the rest`}
      </PickToken>
      {keep.map((test, index) => (
        <Token
          key={index}
          label="Kept where"
          onRemove={() =>
            onChange(
              withPart(
                design,
                'keep',
                keep.filter((_, at) => at !== index),
              ),
            )
          }
          picker={(close) => (
            <KeepForm
              design={design}
              test={test}
              save={(next) => {
                onChange({ ...design, keep: keep.map((each, at) => (at === index ? next : each)) });
                close();
              }}
            />
          )}
        >
          {`where ${label(test.figure)} ${keepInWords(test)}`}
        </Token>
      ))}
      {keep.length < 5 && (
        <Token
          kind="add"
          label="Kept where a figure"
          picker={(close) => (
            <KeepForm
              design={design}
              save={(next) => {
                onChange({ ...design, keep: [...keep, next] });
                close();
              }}
            />
          )}
        >
          where a figure…
        </Token>
      )}
    </span>
  );
}

const keepInWords = ({ is, value }: NonNullable<ReportDesign['keep']>[number]): string => {
  const verbs: Record<string, string> = {
    is: 'is',
    isNot: 'is not',
    below: 'is below',
    atMost: 'is at most',
    above: 'is above',
    atLeast: 'is at least',
    between: 'is between',
  };
  return `${verbs[is]} ${typeof value === 'number' ? value : value.join(' and ')}`;
};

function DrawingClause({ design, onChange }: Props) {
  const { catalogue } = useSession();
  const { figures, draw, rounding } = design;
  return (
    <span className="clause">
      <Said>as</Said>
      <PickToken
        label="Drawn as"
        list="Drawn as"
        options={reportDrawings.map((each) => ({ key: each, label: reportDrawingNames[each], value: each }))}
        onPick={(next) => onChange({ ...design, draw: next })}
      >
        {reportDrawingNames[draw]}
      </PickToken>
      {figures.length > 1 && draw !== 'none' && (
        <PickToken
          label="Drawn figure"
          list="Draw"
          options={figures.map((figure) => ({
            key: figure.key,
            label: figureLabel(figure, design, catalogue),
            value: figure.key,
          }))}
          onPick={(key) => onChange({ ...design, drawn: key })}
        >
          {`of ${figureLabel(drawnFigure(design), design, catalogue)}`}
        </PickToken>
      )}
      <PickToken
        kind={rounding ? 'value' : 'add'}
        label="Rounded to"
        list="Rounded to"
        options={[
          { key: 'exact', label: 'exact', value: undefined },
          { key: 'thousands', label: 'in thousands', value: 'thousands' as const },
          { key: 'millions', label: 'in millions', value: 'millions' as const },
        ]}
        onPick={(next) => onChange(withPart(design, 'rounding', next))}
      >
        {rounding ? `in ${rounding}` : 'exact'}
      </PickToken>
      {draw !== 'none' && (
        <Token
          kind={design.target === undefined ? 'add' : 'value'}
          label="Target"
          {...(design.target === undefined
            ? {}
            : { onRemove: () => onChange(withPart(design, 'target', undefined)) })}
          picker={(close) => (
            <TargetForm
              design={design}
              save={(target) => {
                onChange(withPart(design, 'target', target));
                close();
              }}
            />
          )}
        >
          {design.target === undefined ? 'with a target…' : 'with a target'}
        </Token>
      )}
      {draw !== 'none' && (
        <Token
          kind={design.style ? 'value' : 'add'}
          label="Written out"
          {...(design.style ? { onRemove: () => onChange(withPart(design, 'style', undefined)) } : {})}
          picker={(close) => (
            <StyleForm
              design={design}
              save={(style) => {
                onChange(withPart(design, 'style', style));
                close();
              }}
            />
          )}
        >
          {design.style ? styleInWords(design.style) : 'with labels, limits…'}
        </Token>
      )}
    </span>
  );
}

/** What a report says beside its conditions and groups: the period, the figures, their order, and how they are drawn. */
export function ReportClauses(props: Props) {
  return (
    <>
      <SplitClause {...props} />
      <PeriodClause {...props} />
      <FiguresClause {...props} />
      <OrderClause {...props} />
      <DrawingClause {...props} />
    </>
  );
}

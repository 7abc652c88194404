import {
  figureLabel,
  figureFormats,
  figuresNamed,
  isFormulaFault,
  measureInWords,
  objectType,
  readFormula,
  type Condition,
  type FigureFormat,
  type FigureSource,
  type Measure,
  type MeasuredFigure,
  type OtherRecords,
  type ReportDesign,
  type ReportFigure,
  type Wording,
} from '@zawn/core';
import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { GroupPart } from '../../kernel/sentence/condition';
import { measureOptions } from '../../kernel/sentence/field-options';
import { asGroup, fromGroup } from '../../kernel/sentence/groups';
import { useSession } from '../../platform/sessions/session';
import { BesideFields } from './beside-fields';

interface Props {
  /** The figure that is changed; a new one when left out. */
  figure?: ReportFigure;
  design: ReportDesign;
  wording: Wording;
  onChange: (figure: ReportFigure) => void;
  close: () => void;
}

const formatNames: Record<FigureFormat, string> = {
  number: 'A number',
  decimal: 'A number with decimals',
  percent: 'A percentage',
  money: 'An amount of money',
  days: 'Days',
  ratio: 'A ratio in small numbers',
};

/** What figures can be made of others, each with its own words. */
function madeOf(
  other: ReportFigure,
  name: string,
  hasPeriod: boolean,
): { label: string; source: FigureSource }[] {
  const { key } = other;
  const compared = 'past' in other || 'change' in other;
  return [
    { label: `${name}, so far`, source: { running: key } },
    { label: `${name}, of all`, source: { shareOf: key, in: 'all' } },
    { label: `${name}, of its group`, source: { shareOf: key, in: 'group' } },
    ...(hasPeriod && !compared
      ? ([
          { label: `${name}, a year before`, source: { past: key, of: 'yearBefore' } },
          { label: `${name}, the period before`, source: { past: key, of: 'before' } },
          {
            label: `Change of ${name} against a year before`,
            source: { change: key, against: 'yearBefore', as: 'amount' },
          },
          {
            label: `Change of ${name} against a year before, in percent`,
            source: { change: key, against: 'yearBefore', as: 'percent' },
          },
          {
            label: `Change of ${name} against the period before`,
            source: { change: key, against: 'before', as: 'amount' },
          },
          {
            label: `Change of ${name} against the period before, in percent`,
            source: { change: key, against: 'before', as: 'percent' },
          },
        ] as { label: string; source: FigureSource }[])
      : []),
  ];
}

/** What a figure is made of, of whatever records. */
const sourceOf = ({ key: _key, label: _label, format: _format, ...source }: ReportFigure): FigureSource =>
  source;

/** The same measure whatever condition it has. */
const bare = (measure: Measure): Measure => {
  const { where: _where, ...rest } = measure;
  return rest;
};

/** A figure of other records, or of the report's own; what it measures stays where those have it, else they are counted. */
function ofOthers(
  { beside: before, measure, ...rest }: ReportFigure & MeasuredFigure,
  next: OtherRecords | undefined,
): ReportFigure {
  const isOfSame = before?.object === next?.object;
  return {
    ...rest,
    measure: isOfSame ? measure : { as: 'count' },
    ...(next ? { beside: next } : {}),
  };
}

const FORMULA = JSON.stringify({ formula: '' });

/** What a figure of a report is: a measure with a condition of its own, or something made of other figures. */
export function FigureForm({ figure, design, wording, onChange, close }: Props) {
  const { catalogue } = useSession();
  const [newBeside, setNewBeside] = useState<OtherRecords>();
  const beside = figure ? ('measure' in figure ? figure.beside : undefined) : newBeside;
  const object = beside?.object ?? design.question.object;
  const others = design.figures.filter(({ key }) => key !== figure?.key);
  const [formula, setFormula] = useState(figure && 'formula' in figure ? figure.formula : undefined);
  const [label, setLabel] = useState(figure?.label ?? '');
  const measures = measureOptions(catalogue, object, (measure) => measureInWords(catalogue, object, measure));
  const options = [
    {
      label: beside ? `Of ${objectType(object).plural.toLowerCase()}` : 'Of the records',
      options: measures
        .filter(({ value }) => value.as !== 'share')
        .map((option) => ({ value: JSON.stringify({ measure: option.value }), label: option.label })),
    },
    {
      label: 'Of other figures',
      options: [
        { value: FORMULA, label: 'A formula of other figures' },
        ...others.flatMap((other) =>
          madeOf(other, figureLabel(other, design, catalogue), design.period !== undefined).map((made) => ({
            value: JSON.stringify(made.source),
            label: made.label,
          })),
        ),
      ],
    },
  ];
  const source = figure && sourceOf(figure);
  const chosen =
    formula !== undefined
      ? FORMULA
      : source &&
        ('measure' in source ? JSON.stringify({ measure: bare(source.measure) }) : JSON.stringify(source));
  const named = {
    ...(label.trim() ? { label: label.trim() } : {}),
    ...(figure?.format ? { format: figure.format } : {}),
  };
  const pick = (value: string) => {
    if (value === FORMULA) {
      setFormula('');
      return;
    }
    setFormula(undefined);
    const made = JSON.parse(value) as FigureSource;
    const of = 'measure' in made && beside ? { beside } : {};
    onChange({ key: figure?.key ?? 'new', ...named, ...made, ...of });
  };
  const read = formula === undefined ? undefined : readFormula(formula);
  const unknown =
    read && !isFormulaFault(read)
      ? figuresNamed(read).find((name) => !others.some(({ key }) => key === name))
      : undefined;
  const complaint =
    read && formula
      ? isFormulaFault(read)
        ? `${read.message} (at character ${read.at + 1})`
        : unknown && `There is no figure “${unknown}”`
      : undefined;
  const keepFormula = () => {
    if (formula && read && !isFormulaFault(read) && !unknown) {
      onChange({ key: figure?.key ?? 'new', ...named, formula });
      if (figure) close();
    }
  };
  const measured = figure && 'measure' in figure ? figure : undefined;
  // Of others it is a condition of theirs, of the report's own one beside those of the report.
  const where = beside ? beside.where : measured?.measure.where;
  const setWhere = (next: Condition | undefined) => {
    if (!measured) return;
    if (beside) {
      const { where: _where, ...rest } = beside;
      onChange({ ...measured, beside: next ? { ...rest, where: next } : rest });
    } else
      onChange({ ...measured, measure: { ...bare(measured.measure), ...(next ? { where: next } : {}) } });
  };
  return (
    <form
      className="figure-form"
      aria-label={figure ? `Figure ${figure.key}` : 'Another figure'}
      onSubmit={(event) => {
        event.preventDefault();
        if (formula !== undefined) keepFormula();
        else close();
      }}
    >
      {(!source || 'measure' in source) && (
        <BesideFields
          design={design}
          beside={beside}
          onChange={(next) => {
            if (!figure) setNewBeside(next);
            else if ('measure' in figure) onChange(ofOthers(figure, next));
          }}
        />
      )}
      <label className="figure-field">
        <span>What</span>
        <Select
          showSearch={{ optionFilterProp: 'label' }}
          autoFocus
          defaultOpen={!figure}
          aria-label="What"
          placeholder="Choose a figure"
          value={chosen}
          onChange={pick}
          options={options}
          popupMatchSelectWidth={false}
        />
      </label>
      {formula !== undefined && (
        <label className="figure-field">
          <span>Formula</span>
          <Input
            autoFocus
            aria-label="Formula"
            value={formula}
            status={complaint ? 'error' : ''}
            placeholder={
              others.length > 1 ? `${others[0].key} / (${others[0].key} + ${others[1].key})` : 'a / 2'
            }
            onChange={(event) => setFormula(event.target.value)}
            // A new one is shown when that is asked for, once.
            onBlur={figure ? keepFormula : undefined}
          />
        </label>
      )}
      {formula !== undefined && (
        <p className="second figure-names">
          {complaint ??
            others.map((other) => `${other.key} is ${figureLabel(other, design, catalogue)}`).join(' · ')}
        </p>
      )}
      {formula !== undefined && !figure && (
        <Button htmlType="submit" type="primary" disabled={!formula || Boolean(complaint) || undefined}>
          Show it
        </Button>
      )}
      {measured && (
        <div className="figure-field">
          <span>Only of those</span>
          <div className="sentence figure-where">
            <GroupPart
              object={object}
              condition={asGroup(where)}
              onChange={(group) => setWhere(fromGroup(group))}
              onRemove={() => setWhere(undefined)}
              wording={wording}
              isFresh={false}
              nesting="top"
            />
          </div>
        </div>
      )}
      {figure && (
        <>
          <label className="figure-field">
            <span>Called</span>
            <Input
              aria-label="Called"
              maxLength={60}
              value={label}
              placeholder={figureLabel({ ...figure, label: undefined }, design, catalogue)}
              onChange={(event) => setLabel(event.target.value)}
              onBlur={() => {
                const { label: _label, ...rest } = figure;
                onChange(label.trim() ? { ...rest, label: label.trim() } : rest);
              }}
            />
          </label>
          <label className="figure-field">
            <span>Written as</span>
            <Select<FigureFormat | 'own'>
              aria-label="Written as"
              value={figure.format ?? 'own'}
              onChange={(format) => {
                const { format: _format, ...rest } = figure;
                onChange(format === 'own' ? rest : { ...rest, format });
              }}
              options={[
                { value: 'own', label: 'As it comes' },
                ...figureFormats.map((each) => ({ value: each, label: formatNames[each] })),
              ]}
            />
          </label>
          <p className="second figure-names">In formulas it is called {figure.key}.</p>
        </>
      )}
    </form>
  );
}

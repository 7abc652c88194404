import Joi from 'joi';
import { fieldAt, objectKeys, type Catalogue } from '../../kernel/catalogue';
import { figureOperators, isDated, type Measure } from '../../kernel/questions';
import { checkQuestion, relativePeriod, relativeSpan } from '../../kernel/validation/question-schema';
import { checkAgainst, type Checked, type Fault } from '../../kernel/validation/record-schema';
import { validDay } from '../../kernel/validation/valid-text';
import { periodUnits } from '../../platform/time';
import { figuresBehind } from './made-of';
import { isFormulaFault, readFormula } from './formula';
import {
  figureFormats,
  MOST_REPORT_GROUPS,
  reportDrawings,
  type MeasuredFigure,
  type OtherRecords,
  type ReportDesign,
  type ReportFigure,
} from './report';
import { standsFor } from './other-records';
import { ANY_GROUP, besideDesign } from './report-question';

/** Figures beside each other in a report. */
const MOST_FIGURES = 16;
const LONGEST_FORMULA = 500;

const key = Joi.string()
  .pattern(/^[a-z][a-z0-9]{0,19}$/i)
  .messages({ 'string.pattern.base': 'A figure is called by a letter, then letters and digits' });
const compared = Joi.string().valid('before', 'yearBefore');
const common = {
  key: key.required(),
  label: Joi.string().trim().min(1).max(60),
  format: Joi.string().valid(...figureFormats),
};

const path = Joi.string().max(100);
const beside = Joi.object({
  object: Joi.string()
    .valid(...objectKeys)
    .required(),
  where: Joi.object().unknown(),
  period: path,
  match: Joi.object().pattern(path, path.required()).max(10).required(),
  isUntold: Joi.boolean().valid(true),
});

const figure = Joi.alternatives().try(
  Joi.object({ ...common, measure: Joi.object().unknown().required(), beside }),
  Joi.object({ ...common, formula: Joi.string().max(LONGEST_FORMULA).required() }),
  Joi.object({ ...common, running: key.required() }),
  Joi.object({ ...common, shareOf: key.required(), in: Joi.string().valid('all', 'group').required() }),
  Joi.object({ ...common, past: key.required(), of: compared.required() }),
  Joi.object({
    ...common,
    change: key.required(),
    against: compared.required(),
    as: Joi.string().valid('amount', 'percent').required(),
  }),
);

const number = Joi.number().min(-9e15).max(9e15);
/** The days a report is about, as they are written down. */
export const periodIn = Joi.alternatives(
  relativePeriod,
  relativeSpan,
  Joi.object({ from: validDay.required(), to: validDay.required() }),
);

const drawingStyle = Joi.object({
  labels: Joi.string().valid('all', 'none'),
  legend: Joi.string().valid('below', 'none'),
  from: number,
  to: number,
})
  .custom((style: { from?: number; to?: number }, { error }) =>
    style.from !== undefined && style.to !== undefined && style.from >= style.to
      ? error('style.scale')
      : style,
  )
  .messages({ 'style.scale': 'The scale must end above where it begins' });

/** What a report is drawn by; a tile may draw it otherwise. */
export const drawnAs = {
  draw: Joi.string().valid(...reportDrawings),
  drawn: key,
  rounding: Joi.string().valid('thousands', 'millions'),
  target: number,
  style: drawingStyle,
};

const schema = Joi.object({
  version: Joi.number().valid(1).required(),
  question: Joi.object().unknown().required(),
  period: Joi.object({ field: Joi.string().max(100).required(), in: periodIn.required() }),
  split: Joi.object({ field: Joi.string().max(100).required(), by: Joi.string().valid(...periodUnits) }),
  figures: Joi.array().items(figure).min(1).max(MOST_FIGURES).required(),
  keep: Joi.array()
    .items(
      Joi.object({
        figure: key.required(),
        is: Joi.string()
          .valid(...figureOperators)
          .required(),
        value: Joi.when('is', {
          is: 'between',
          then: Joi.array().items(number).length(2).required(),
          otherwise: number.required(),
        }),
      }),
    )
    .max(5),
  order: Joi.object({ figure: key.required(), descending: Joi.boolean() }),
  top: Joi.number().integer().min(1).max(1000),
  ...drawnAs,
  draw: drawnAs.draw.required(),
}).label('Report');

/** A figure that is made of itself, by whatever way; undefined where there is none. */
function circleIn(figures: readonly ReportFigure[]): string | undefined {
  const byKey = new Map(figures.map((each) => [each.key, each]));
  const state = new Map<string, 'open' | 'done'>();
  const goesRound = (name: string): boolean => {
    if (state.get(name) === 'open') return true;
    if (state.has(name)) return false;
    state.set(name, 'open');
    const found = byKey.get(name);
    const round = found !== undefined && figuresBehind(found).some(goesRound);
    state.set(name, 'done');
    return round;
  };
  return figures.find(({ key: name }) => goesRound(name))?.key;
}

/** Figures that need another period, or the order of the groups, cannot be what those are found by. */
const rests = (figure: ReportFigure) => 'past' in figure || 'change' in figure;

/** What is wrong with the figures and with what names them. */
function figureFaults({ figures, period, keep = [], order, drawn }: ReportDesign): Fault[] {
  const faults: Fault[] = [];
  const byKey = new Map(figures.map((each) => [each.key, each]));
  const add = (field: string, message: string) => faults.push({ field, message });
  if (byKey.size < figures.length) add('figures', 'Two figures have the same name');
  for (const [index, each] of figures.entries()) {
    const at = `figures.${index}`;
    if ('formula' in each) {
      const read = readFormula(each.formula);
      if (isFormulaFault(read)) add(`${at}.formula`, `${read.message} (at character ${read.at + 1})`);
    }
    for (const name of figuresBehind(each)) {
      const found = byKey.get(name);
      if (!found) add(at, `There is no figure “${name}”`);
      else if (rests(each) && rests(found))
        add(at, `“${name}” is compared with another period already, and cannot be compared again`);
    }
    if (rests(each) && !period)
      add(at, 'Say which period the report is about: there is nothing to compare with');
  }
  const circle = circleIn(figures);
  if (circle !== undefined) add('figures', `“${circle}” is made of itself`);
  const names: [string, string | undefined][] = [
    ...keep.map(({ figure: name }, index): [string, string] => [`keep.${index}.figure`, name]),
    ['order.figure', order?.figure],
    ['drawn', drawn],
  ];
  for (const [at, name] of names)
    if (name !== undefined && !byKey.has(name)) add(at, `There is no figure “${name}”`);
  const isRunning = (name: string): boolean => {
    const found = byKey.get(name);
    return found !== undefined && ('running' in found || figuresBehind(found).some(isRunning));
  };
  // A running total follows the order, so it can neither make it nor leave groups out of it.
  if (circle === undefined)
    for (const [at, name] of names.slice(0, -1))
      if (name !== undefined && isRunning(name))
        add(at, 'A running total depends on the order of the groups');
  return faults;
}

/** Checks a report that came from outside: its shape, its question, and that its figures can be made. */
export function checkReport(value: unknown, catalogue: Catalogue): Checked<ReportDesign> {
  const checked = checkAgainst<ReportDesign>(schema, value);
  if (!checked.value) return checked;
  const design = checked.value;
  const measures = design.figures.map((each) =>
    'measure' in each && !each.beside ? each.measure : undefined,
  );
  const split = design.split ? [design.split] : [];
  const question = checkQuestion(
    {
      ...design.question,
      groups: [...(design.question.groups ?? []), ...split],
      measures: measures.map((measure): Measure => measure ?? { as: 'count' }),
    },
    catalogue,
  );
  if (!question.value)
    return {
      value: undefined,
      faults: question.faults.map(({ field, message }) => ({
        field: field.replace(/^measures\.(\d+)/, 'figures.$1.measure'),
        message,
      })),
    };
  const { object, groups: all = [], measures: known = [], ...rest } = question.value;
  const groups = all.slice(0, all.length - split.length);
  const faults = figureFaults(design);
  if (groups.length > MOST_REPORT_GROUPS)
    faults.push({
      field: 'question.groups',
      message: `A report has at most ${MOST_REPORT_GROUPS} groups within each other`,
    });
  if (design.period) {
    const field = fieldAt(catalogue, object, design.period.field);
    if (field && !isDated(field.type))
      faults.push({ field: 'period.field', message: `${field.label} is no date` });
    if ('from' in design.period.in && design.period.in.from > design.period.in.to)
      faults.push({ field: 'period.in', message: 'The period ends before it begins' });
  }
  const figures = design.figures.map((each, index): ReportFigure => {
    if (!('measure' in each)) return each;
    if (!each.beside) return { ...each, measure: known[index] };
    const other = checkBeside(design, each.measure, each.beside, catalogue);
    if (other.value) return { ...each, ...other.value };
    for (const { field, message } of other.faults)
      faults.push({ field: `figures.${index}.${field}`, message });
    return each;
  });
  if (faults.length > 0) return { value: undefined, faults };
  return { value: { ...design, question: { ...rest, object, groups }, figures }, faults: [] };
}

/** Checks a figure of other records: that there are such, and that their fields stand for what the report groups by. */
function checkBeside(
  design: ReportDesign,
  measure: Measure,
  other: OtherRecords,
  catalogue: Catalogue,
): Checked<MeasuredFigure> {
  const { question, period, split } = besideDesign(design, other);
  if (design.question.asOf !== undefined)
    return {
      value: undefined,
      faults: [{ field: 'beside', message: 'Beside records as they stood, others cannot be told' }],
    };
  const groups = [...(question.groups ?? []), ...(split ? [split] : [])];
  const checked = checkQuestion({ ...question, groups, measures: [measure] }, catalogue);
  if (!checked.value) return checked;
  const faults: Fault[] = [];
  for (const [own, theirs] of Object.entries(other.match).filter(([, field]) => field !== ANY_GROUP)) {
    const [field, stands] = [
      fieldAt(catalogue, design.question.object, own),
      fieldAt(catalogue, other.object, theirs),
    ];
    if (field && stands && !standsFor(stands, field))
      faults.push({
        field: `beside.match.${own}`,
        message: `${stands.label} cannot stand for ${field.label.toLowerCase()}: they are of another kind`,
      });
  }
  const date = period && fieldAt(catalogue, other.object, period.field);
  if (date && !isDated(date.type))
    faults.push({ field: 'beside.period', message: `${date.label} is no date` });
  const { where, measures = [] } = checked.value;
  const { where: _where, ...rest } = other;
  return faults.length > 0
    ? { value: undefined, faults }
    : { value: { measure: measures[0], beside: { ...rest, ...(where ? { where } : {}) } }, faults: [] };
}

import { fieldAt, objectType, type Catalogue, type ObjectKey } from '../../kernel/catalogue';
import {
  ask,
  onItsDay,
  type Grouping,
  type Measure,
  type Question,
  type QuestionContext,
} from '../../kernel/questions';
import { columnsOf } from '../../kernel/views/design';
import { comparedIn, knownReport, reportParts } from '../reports/parts';
import { daysAt, type At } from '../reports/periods-within';
import { type ReportDesign } from '../reports/report';
import { askedBy } from '../reports/report-question';
import { type FrozenPart } from './frozen';

/** What tells how many groups there are by a field, where only the first of them are shown. */
const groupsCounted = (field: string): Measure[] => [
  { as: 'distinct', of: field },
  { as: 'count', where: { field, is: 'isEmpty' } },
];

/** A measure of one record, from which that of any of its groups follows. */
export const ofOneRecord = (measure: Measure): Measure =>
  measure.as === 'share' ? { ...measure, as: 'sum' } : measure;

/** The field that an amount's currency is read from. */
export function currencyOf(catalogue: Catalogue, object: ObjectKey, path: string): string | undefined {
  const currency = fieldAt(catalogue, object, path)?.currency;
  return currency && [...path.split('.').slice(0, -1), currency].join('.');
}

/** What a measure needs to be told of each record beside its figure. */
function besideMeasure(catalogue: Catalogue, object: ObjectKey, measure: Measure): Grouping[] {
  const { as, of, money } = measure;
  if (of === undefined) return [];
  if (as === 'distinct') return [{ field: of }];
  const currency = money === 'own' ? currencyOf(catalogue, object, of) : undefined;
  return currency ? [{ field: currency }] : [];
}

/**
 * What has to be asked record by record to freeze a report. The figures of any groups, and of any of its records alone,
 * follow from the answers.
 */
export function frozenParts(asked: ReportDesign, now: QuestionContext): FrozenPart[] {
  const context = onItsDay(asked.question, now);
  const { catalogue } = context;
  const { design } = knownReport(asked, catalogue);
  const times: At[] = ['now', ...comparedIn(design)];
  return reportParts(design, catalogue).parts.flatMap((part, index) =>
    times.map((at): FrozenPart => {
      const { question, split } = part.design;
      const { object, groups = [] } = question;
      const beside = part.measures.flatMap((measure) => besideMeasure(catalogue, object, measure));
      const wheres = part.measures.flatMap(({ where }) => (where ? [{ as: 'count' as const, where }] : []));
      const measures = [
        { as: 'count' as const },
        ...part.measures.map(ofOneRecord),
        ...wheres,
        ...(design.top !== undefined && groups[0] ? groupsCounted(groups[0].field) : []),
      ];
      return {
        at,
        part: index,
        ...(part.beside ? { beside: part.beside } : {}),
        question: {
          ...askedBy(part.design, context, daysAt(part.design, at, context)),
          groups: unique([...groups, ...(split ? [split] : []), ...beside]),
          measures: unique(measures),
        },
        columns: columnsShown(question),
      };
    }),
  );
}

/** The columns records are shown with: the question's own or the usual ones, else the first of their fields. */
function columnsShown({ object, columns }: Question): readonly string[] {
  const { category, fields } = objectType(object);
  if (columns || category === 'work')
    return columnsOf({ question: { ...ask(object), ...(columns ? { columns } : {}) }, draw: 'table' });
  return Object.keys(fields).slice(0, 5);
}

const unique = <T>(all: readonly T[]): T[] => [
  ...new Map(all.map((each) => [JSON.stringify(each), each])).values(),
];

import { type AnyRecord, type ObjectKey } from '../../kernel/catalogue';
import { summarise, type QuestionContext, type Surroundings } from '../../kernel/questions';
import { answerReport, type AskFigures, type ReportAnswer, type ReportDesign } from '.';

/** Answers questions in figures from records in memory. */
export const figuresFrom =
  (
    records: Partial<Record<ObjectKey, readonly AnyRecord[]>>,
    context: QuestionContext,
    around: Surroundings,
  ): AskFigures =>
  (question) =>
    Promise.resolve({
      rows: summarise(question, records[question.object] ?? [], context, around),
      names: {},
      leftOut: [],
      unrated: 0,
      isCut: false,
    });

/** Answers a report from records in memory. */
export const answeredFrom = (
  design: ReportDesign,
  ...from: Parameters<typeof figuresFrom>
): Promise<ReportAnswer> => answerReport(design, from[1], figuresFrom(...from));

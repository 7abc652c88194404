import { type AnyRecord } from '../../kernel/catalogue';

/** The four questions of the trade that tell whether a lead is worth pursuing. */
export const tradeQuestions = [
  { key: 'budget', label: 'Budget', asks: 'Is there money for it' },
  { key: 'authority', label: 'Authority', asks: 'Do we talk to who decides' },
  { key: 'need', label: 'Need', asks: 'Do they need what we do' },
  { key: 'timing', label: 'Timing', asks: 'Do they want it soon enough' },
] as const;

export type TradeQuestion = (typeof tradeQuestions)[number]['key'];

/** The field that holds a question's answer: met, not met, or empty while it is unknown. */
export const metField = (question: TradeQuestion) => `${question}Met`;
export const metNoteField = (question: TradeQuestion) => `${question}Note`;

const answers = tradeQuestions.map(({ key }) => metField(key));

/** How many of the four questions are met: as just said, else as said before. */
export function questionsMet(said: Partial<AnyRecord>, before?: Partial<AnyRecord>): number {
  return answers.filter((field) => (field in said ? said : before)?.[field] === 'met').length;
}

/** Whole hours from a lead's capture to the first time someone called, met or wrote to them. */
export function hoursToTouch(createdAt: string, firstTouchAt: string): number {
  return Math.max(0, Math.round((Date.parse(firstTouchAt) - Date.parse(createdAt)) / 3_600_000));
}

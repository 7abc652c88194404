import { type Field, type FieldType, type ObjectKey } from '@zawn/core';

const byType: Partial<Record<FieldType, number>> = {
  money: 96,
  number: 84,
  percent: 76,
  date: 104,
  dateTime: 152,
  time: 64,
  yesNo: 84,
  choice: 116,
  country: 116,
  currency: 72,
  email: 208,
  phone: 148,
  web: 180,
  longText: 260,
  tags: 160,
  choices: 150,
  lists: 160,
  link: 132,
};

/** Fields whose values are longer or shorter than their type's usually are. */
const byPath: Record<string, number> = {
  organisation: 176,
  recording: 210,
  account: 176,
  deal: 200,
  budget: 84,
  outcome: 78,
  'activity.outcome': 130,
  nextStepOn: 172,
  deciderNamed: 146,
  source: 104,
  city: 116,
  role: 132,
  interest: 110,
};

/** Room for the names of each object. */
const names: Partial<Record<ObjectKey, number>> = {
  lead: 144,
  contact: 144,
  account: 200,
  deal: 250,
  activity: 190,
};

/** Room a column begins with, in pixels. */
export function usualWidth(
  object: ObjectKey,
  path: string,
  field: Field | undefined,
  isName: boolean,
): number {
  if (isName) return names[object] ?? 200;
  return byPath[`${object}.${path}`] ?? byPath[path] ?? byType[field?.type ?? 'text'] ?? 150;
}

const FIGURES = new Set<FieldType>(['money', 'number', 'percent']);

/** Whether a column's values are figures, which stand on the right. */
export const isFigure = (field: Field | undefined): boolean => field !== undefined && FIGURES.has(field.type);

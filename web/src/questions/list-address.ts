import { type ObjectKey, type Question } from '@zawn/core';

/** The address of a list that shows the records behind a figure. */
export function listAddress(path: string, question: Question): string {
  const { version, object, where } = question;
  return `/${path}?q=${encodeURIComponent(JSON.stringify({ version, object, where }))}`;
}

/** The question an address carries; undefined when it carries none for this object. */
export function questionIn(text: string | null, object: ObjectKey): Question | undefined {
  if (text === null) return undefined;
  try {
    const question = JSON.parse(text) as Question;
    return question.object === object ? question : undefined;
  } catch {
    return undefined;
  }
}

import { tableOf, type Design, type ObjectKey, type Question } from '@zawn/core';

/** The parameter of an address that carries a design which differs from its view's. */
export const DESIGN = 'd';

/** The address of a list that shows the records behind a figure. */
export function listAddress(path: string, question: Question): string {
  return `/${path}?${DESIGN}=${encodeURIComponent(JSON.stringify(tableOf(question)))}`;
}

/** The design an address carries; undefined when it carries none for this object. */
export function designIn(text: string | null, object: ObjectKey): Design | undefined {
  if (text === null) return undefined;
  try {
    const design = JSON.parse(text) as Design;
    return design.question.object === object ? design : undefined;
  } catch {
    return undefined;
  }
}

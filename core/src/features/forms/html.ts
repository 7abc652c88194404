/** Markup that is written as it is. */
export class Markup {
  constructor(readonly text: string) {}
}

const signs: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

type Part = string | number | Markup | false | null | undefined | readonly Part[];

function written(part: Part): string {
  if (part instanceof Markup) return part.text;
  if (typeof part === 'string') return part.replace(/[&<>"']/g, (sign) => signs[sign]);
  if (typeof part === 'number') return String(part);
  return part ? part.map(written).join('') : '';
}

/** Markup from a template: whatever is put in is escaped, unless it is markup itself. */
export function html(texts: TemplateStringsArray, ...parts: Part[]): Markup {
  return new Markup(texts.map((text, index) => text + written(parts[index])).join(''));
}

/** A text with its line breaks kept. */
export const lines = (text: string): Markup[] =>
  text.split('\n').map((line, index) => (index === 0 ? html`${line}` : html`<br />${line}`));

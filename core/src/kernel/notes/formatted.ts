import { type Checked, type Fault } from '../validation';

/** A stretch of text with what is done to it, a line break, or a colleague who is mentioned. */
export type Inline =
  | { type: 'text'; text: string; marks?: Mark[] }
  | { type: 'hardBreak' }
  | { type: 'mention'; attrs: { id: number; label: string } };

export type Mark = { type: 'bold' | 'italic' | 'strike' } | { type: 'link'; attrs: { href: string } };

export type Block =
  | { type: 'paragraph'; content?: Inline[] }
  | { type: 'heading'; attrs: { level: number }; content?: Inline[] }
  | { type: 'blockquote'; content: Block[] }
  | { type: 'bulletList' | 'orderedList'; content: ListItem[] };

export interface ListItem {
  type: 'listItem';
  content: Block[];
}

/** A formatted text: a tree of blocks, as the editor of notes makes it. */
export interface Formatted {
  type: 'doc';
  content: Block[];
}

/** Bounds of what one note can hold. */
export const mostMentions = 50;
const MOST_NODES = 3000;
const MOST_DEEP = 12;
const LONGEST = 20_000;

const PLAIN_MARKS = new Set(['bold', 'italic', 'strike']);
const BLOCKS = ['paragraph', 'heading', 'blockquote', 'bulletList', 'orderedList'];
/** What may stand within what. */
const within: Readonly<Record<string, readonly string[]>> = {
  doc: BLOCKS,
  blockquote: BLOCKS,
  listItem: BLOCKS,
  bulletList: ['listItem'],
  orderedList: ['listItem'],
  paragraph: ['text', 'hardBreak', 'mention'],
  heading: ['text', 'hardBreak', 'mention'],
};

class Malformed extends Error {}

type Loose = Record<string, unknown>;

const isObject = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function markFrom(raw: unknown): Mark | undefined {
  if (!isObject(raw)) throw new Malformed('The note is not put together as a note is');
  if (PLAIN_MARKS.has(String(raw.type))) return { type: raw.type as 'bold' };
  if (raw.type !== 'link') return undefined;
  const href = isObject(raw.attrs) ? String(raw.attrs.href) : '';
  // An address that runs something is not one to click.
  if (!/^(https?:\/\/|mailto:)[^\s"<>]+$/i.test(href) || href.length > 2000)
    throw new Malformed('A link in the note must begin with http, https or mailto');
  return { type: 'link', attrs: { href } };
}

/** Takes over of a node only what notes have; anything else in it is dropped, anything out of place refused. */
function nodeFrom(raw: unknown, parent: string, depth: number, count: { nodes: number }): unknown {
  count.nodes += 1;
  if (count.nodes > MOST_NODES || depth > MOST_DEEP) throw new Malformed('The note is too large');
  if (!isObject(raw) || !within[parent]?.includes(String(raw.type)))
    throw new Malformed('The note is not put together as a note is');
  const type = String(raw.type);
  if (type === 'hardBreak') return { type };
  if (type === 'text') {
    if (typeof raw.text !== 'string' || raw.text === '') throw new Malformed('A text in the note is empty');
    const marks = (Array.isArray(raw.marks) ? raw.marks : [])
      .map(markFrom)
      .filter((mark) => mark !== undefined);
    return { type, text: raw.text, ...(marks.length > 0 ? { marks } : {}) };
  }
  if (type === 'mention') {
    const attrs = isObject(raw.attrs) ? raw.attrs : {};
    const id = Number(attrs.id);
    if (!Number.isSafeInteger(id) || id < 1) throw new Malformed('A mention in the note names nobody');
    return { type, attrs: { id, label: typeof attrs.label === 'string' ? attrs.label.slice(0, 200) : '' } };
  }
  const content = Array.isArray(raw.content)
    ? raw.content.map((child) => nodeFrom(child, type, depth + 1, count))
    : [];
  if (type !== 'heading') return { type, content };
  const level = isObject(raw.attrs) && raw.attrs.level === 3 ? 3 : 2;
  return { type, attrs: { level }, content };
}

/**
 * A formatted text from anything that was sent, reduced to what notes can hold.
 * @returns the fault when it is malformed, empty, too large, or mentions too many.
 */
export function checkFormatted(raw: unknown): Checked<Formatted> {
  const fault = (message: string): Checked<Formatted> => ({
    value: undefined,
    faults: [{ field: '', message } satisfies Fault],
  });
  try {
    if (!isObject(raw) || raw.type !== 'doc' || !Array.isArray(raw.content))
      throw new Malformed('The note is not put together as a note is');
    const count = { nodes: 0 };
    const content = raw.content.map((child) => nodeFrom(child, 'doc', 1, count)) as Block[];
    const value: Formatted = { type: 'doc', content };
    const text = plainText(value);
    if (text === '') return fault('The note is empty');
    if (text.length > LONGEST) return fault('The note is longer than 20,000 characters');
    const mentioned = mentionsIn(value).length;
    if (mentioned > mostMentions)
      return fault(`A note can mention ${mostMentions} people, this one ${mentioned}`);
    return { value, faults: [] };
  } catch (error) {
    if (error instanceof Malformed) return fault(error.message);
    throw error;
  }
}

/** The text alone: a line a block, list items with a dash, mentions by name. */
export function plainText(doc: Formatted): string {
  return doc.content.map(textOfBlock).join('\n').trim();
}

function textOfBlock(block: Block): string {
  switch (block.type) {
    case 'paragraph':
    case 'heading':
      return (block.content ?? []).map(textOfInline).join('');
    case 'blockquote':
      return block.content.map(textOfBlock).join('\n');
    default:
      return block.content.map(({ content }) => `- ${content.map(textOfBlock).join('\n  ')}`).join('\n');
  }
}

function textOfInline(inline: Inline): string {
  if (inline.type === 'text') return inline.text;
  return inline.type === 'hardBreak' ? '\n' : `@${inline.attrs.label}`;
}

/** The people mentioned, each once, in the order they come. */
export function mentionsIn(doc: Formatted): number[] {
  const found = new Set<number>();
  const look = (nodes: readonly (Block | ListItem | Inline)[]): void => {
    for (const node of nodes) {
      if (node.type === 'mention') found.add(node.attrs.id);
      else if ('content' in node && node.content) look(node.content);
    }
  };
  look(doc.content);
  return [...found];
}

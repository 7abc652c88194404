import { Tokenizer } from 'htmlparser2';

/** Elements after whose end, or in whose place, a line ends. */
const BREAKS = /^(br|p|div|tr|li|h\d)$/i;
/** Elements whose text nobody reads. */
const UNREAD = /^(script|style|textarea|option)$/i;

const nothing = () => undefined;

/**
 * The text of an HTML message: what can be read of it, without anything that runs, loads or links. Elements are
 * taken one after the other and never put into a tree, so that the work grows with the length and not with the depth.
 * @param longest characters of text after which the rest is left unread.
 */
export function textOfHtml(html: string, longest: number): string {
  const said: string[] = [];
  let length = 0;
  let unread: string | undefined;
  const say = (text: string) => {
    if (unread !== undefined || length > longest) return;
    said.push(text);
    length += text.length;
  };
  const tokenizer = new Tokenizer(
    { xmlMode: false, decodeEntities: true },
    {
      ontext: (start, end) => say(html.slice(start, end)),
      ontextentity: (code) => say(String.fromCodePoint(code)),
      onopentagname: (start, end) => {
        const name = html.slice(start, end);
        if (unread === undefined && UNREAD.test(name)) unread = name.toLowerCase();
        else if (/^br$/i.test(name)) say('\n');
      },
      onclosetag: (start, end) => {
        const name = html.slice(start, end);
        if (unread === name.toLowerCase()) unread = undefined;
        else if (BREAKS.test(name)) say('\n');
        // Cells of a row stand beside each other.
        else if (/^t[dh]$/i.test(name)) say(' ');
      },
      onselfclosingtag: nothing,
      onopentagend: nothing,
      onattribdata: nothing,
      onattribentity: nothing,
      onattribend: nothing,
      onattribname: nothing,
      oncdata: nothing,
      oncomment: nothing,
      ondeclaration: nothing,
      onprocessinginstruction: nothing,
      onend: nothing,
    },
  );
  tokenizer.write(html);
  tokenizer.end();
  return said
    .join('')
    .replace(/[ \t]+/g, ' ')
    .replace(/ \n/g, '\n')
    .replace(/\n\s*\n\s*\n+/g, '\n\n')
    .trim();
}

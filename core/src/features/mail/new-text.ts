/** Lines that begin what is quoted from an earlier message. */
const QUOTED_FROM = [
  /^On .{4,200} wrote:$/i,
  /^(Am|Den|Le|El|Op) .{4,200}(schrieb|skrev|écrit|escribió|schreef).{0,80}:$/i,
  /^-{2,}\s*(original message|forwarded message|ursprüngliche nachricht)\s*-{2,}$/i,
  /^_{20,}$/,
];
const HEADER = /^(from|sent|to|subject|date):\s/i;

/** Whether a block of headers begins at a line: two of them in a row. */
const isHeaderBlock = (lines: readonly string[], at: number) =>
  HEADER.test(lines[at]) && at + 1 < lines.length && HEADER.test(lines[at + 1]);

/** What somebody wrote themselves: the text above whatever it quotes, without quoted lines. */
export function newText(text: string): string {
  const lines = text.replace(/\r\n?/g, '\n').split('\n');
  const end = lines.findIndex(
    (line, at) => QUOTED_FROM.some((mark) => mark.test(line.trim())) || isHeaderBlock(lines, at),
  );
  const own = (end < 0 ? lines : lines.slice(0, end)).filter((line) => !/^\s*>/.test(line));
  return own.join('\n').trim();
}

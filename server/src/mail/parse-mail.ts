import PostalMime, { type Address, type Email } from 'postal-mime';
import sanitizeHtml from 'sanitize-html';
import { type Message } from '@zawn/core/mail';

/** The largest message that is taken in, its files included. */
export const LARGEST_MAIL = 25_000_000;
const MOST_FILES = 100;
const LONGEST_TEXT = 200_000;
const EARLIEST = '1990';

/** A file that came with a message. */
export interface MailFile {
  name: string;
  type: string;
  content: Uint8Array;
}

export interface ParsedMail {
  message: Message;
  files: MailFile[];
}

/** The text of an HTML message: what can be read of it, without anything that runs, loads or links. */
function textOfHtml(html: string): string {
  const broken = html.replace(/<(br|\/p|\/div|\/tr|\/li|\/h\d)\b[^>]*>/gi, '$&\n');
  const bare = sanitizeHtml(broken, { allowedTags: [], allowedAttributes: {}, textFilter: unescape });
  return bare
    .replace(/[ \t]+/g, ' ')
    .replace(/\n\s*\n\s*\n+/g, '\n\n')
    .trim();
}

const entities: Record<string, string> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"' };
const unescape = (text: string) => text.replace(/&(amp|lt|gt|quot);/g, (entity) => entities[entity]);

const mailboxes = (addresses: readonly Address[] = []) =>
  addresses.flatMap((each) => each.group ?? [each]).map(({ address }) => (address ?? '').toLowerCase());

const idsIn = (text: string | undefined) => text?.match(/<[^<>\s]{1,500}>/g) ?? [];

function sentAt({ date }: Email, now: string): string | undefined {
  const time = date === undefined ? NaN : Date.parse(date);
  if (Number.isNaN(time)) return undefined;
  const at = new Date(time).toISOString();
  return at >= EARLIEST && at <= now ? at : undefined;
}

/** A name without folders and signs that mean something to a file system. */
const plainName = (name: string | null, index: number) =>
  (name ?? '')
    .replace(/^.*[\\/]/, '')
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u001f<>:"|?*]/g, '')
    .replace(/^\.+/, '')
    .slice(0, 150) || `file-${index + 1}`;

/**
 * Takes a message apart (RFC 5322, MIME). What is broken in it is read as far as it can be.
 * @param now what is dated later is not believed.
 * @throws Error when it is nested beyond all sense.
 */
export async function parseMail(raw: Uint8Array, now: string): Promise<ParsedMail> {
  const mail = await new PostalMime({ maxNestingDepth: 40 }).parse(raw);
  const written = mail.text?.trim() ? mail.text : mail.html ? textOfHtml(mail.html) : '';
  const [messageId] = idsIn(mail.messageId);
  const [inReplyTo] = idsIn(mail.inReplyTo);
  const message: Message = {
    from: { name: mail.from?.name ?? '', address: mailboxes(mail.from ? [mail.from] : [])[0] ?? '' },
    to: [...mailboxes(mail.to), ...mailboxes(mail.cc)].filter(Boolean),
    subject: (mail.subject ?? '').replace(/\s+/g, ' ').trim().slice(0, 500),
    text: written.replace(/\r\n?/g, '\n').trim().slice(0, LONGEST_TEXT),
    sentAt: sentAt(mail, now),
    messageId,
    inReplyTo,
    references: idsIn(mail.references),
    headers: new Map(mail.headers.map(({ key, value }) => [key, value])),
  };
  const files = mail.attachments.slice(0, MOST_FILES).map(({ filename, mimeType, content }, index) => ({
    name: plainName(filename, index),
    type: mimeType,
    content: typeof content === 'string' ? Buffer.from(content) : new Uint8Array(content),
  }));
  return { message, files };
}

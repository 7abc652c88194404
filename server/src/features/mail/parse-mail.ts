import PostalMime, { decodeWords, type Address, type Email } from 'postal-mime';
import { type Message } from '@zawn/core/mail';
import { textOfHtml } from './text-of-html';

/** The largest message that is taken in, its files included. */
export const LARGEST_MAIL = 25_000_000;
const MOST_FILES = 100;
const LONGEST_TEXT = 200_000;
/** Of names, addresses and headers no more than this is looked at. */
const LONGEST_HEAD = 1000;
const MOST_ADDRESSES = 500;
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

const mailboxes = (addresses: readonly Address[] = []) =>
  addresses
    .slice(0, MOST_ADDRESSES)
    .flatMap((each) => each.group ?? [each])
    .map(({ address }) => (address ?? '').toLowerCase().slice(0, LONGEST_HEAD));

const idsIn = (text: string | undefined) => text?.match(/<[^<>\s]{1,500}>/g) ?? [];

function sentAt({ date }: Email, now: string): string | undefined {
  const time = date === undefined ? NaN : Date.parse(date);
  if (Number.isNaN(time)) return undefined;
  const at = new Date(time).toISOString();
  return at >= EARLIEST && at <= now ? at : undefined;
}

/**
 * Who wrote. A name with a comma and without its quotes looks like two addresses: `Lund, Inga <inga@lund.example>`.
 */
function writerIn({ from, headers }: Email): { name: string; address: string } {
  const said = decodeWords(headers.find(({ key }) => key === 'from')?.value ?? '').slice(0, LONGEST_HEAD);
  const unquoted = /^([^"<>@;:]+,[^"<>@;:]+)<\s*([^<>\s]+@[^<>\s]+)\s*>\s*$/.exec(said);
  if (unquoted) return { name: unquoted[1].trim(), address: unquoted[2].toLowerCase() };
  return {
    name: (from?.name ?? '').slice(0, LONGEST_HEAD),
    address: mailboxes(from ? [from] : [])[0] ?? '',
  };
}

/** What a part without a name is called, by its type. */
const NAMES: Readonly<Record<string, string>> = {
  'text/calendar': 'invitation.ics',
  'application/ics': 'invitation.ics',
  'message/rfc822': 'message.eml',
  'text/vcard': 'card.vcf',
  'text/html': 'message.html',
  'text/plain': 'message.txt',
  'application/pdf': 'document.pdf',
};

/** A name without folders and signs that mean something to a file system. */
const plainName = (name: string | null, type: string, index: number) =>
  (name ?? NAMES[type.toLowerCase()] ?? '')
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
  const written = mail.text?.trim() ? mail.text : mail.html ? textOfHtml(mail.html, LONGEST_TEXT) : '';
  const replyTo = mail.replyTo?.flatMap((each) => each.group ?? [each]).at(0);
  const [messageId] = idsIn(mail.messageId);
  const [inReplyTo] = idsIn(mail.inReplyTo);
  const message: Message = {
    from: writerIn(mail),
    ...(replyTo
      ? { replyTo: { name: (replyTo.name ?? '').slice(0, LONGEST_HEAD), address: mailboxes([replyTo])[0] } }
      : {}),
    hops: mail.headers.filter(({ key }) => key === 'received').length,
    deliveredTo: mail.headers
      .filter(({ key }) => key === 'delivered-to')
      .slice(0, MOST_ADDRESSES)
      .map(({ value }) => value.replace(/[<>]/g, '').trim().toLowerCase().slice(0, LONGEST_HEAD)),
    to: [...mailboxes(mail.to), ...mailboxes(mail.cc)].filter(Boolean),
    subject: (mail.subject ?? '')
      .slice(0, LONGEST_HEAD)
      .replace(/[\s\p{Cc}]+/gu, ' ')
      .trim()
      .slice(0, 500),
    text: written.replace(/\r\n?/g, '\n').trim().slice(0, LONGEST_TEXT),
    sentAt: sentAt(mail, now),
    messageId,
    inReplyTo,
    references: idsIn(mail.references?.slice(0, LONGEST_TEXT)).slice(-MOST_ADDRESSES),
    headers: new Map(mail.headers.map(({ key, value }) => [key, value.slice(0, LONGEST_HEAD)])),
  };
  const files = mail.attachments.slice(0, MOST_FILES).map(({ filename, mimeType, content }, index) => ({
    name: plainName(filename, mimeType, index),
    type: mimeType,
    content: typeof content === 'string' ? Buffer.from(content) : new Uint8Array(content),
  }));
  return { message, files };
}

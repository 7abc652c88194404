/** An email as it came, taken apart: what is needed to know who wrote about what. */
export interface Message {
  from: { name: string; address: string };
  /** Everyone it was sent to, copies included. */
  to: readonly string[];
  subject: string;
  text: string;
  /** When the sender says it was sent, UTC ISO 8601; undefined when they do not, or not believably. */
  sentAt?: string;
  messageId?: string;
  inReplyTo?: string;
  /** The messages it goes back to, the first of the thread first. */
  references: readonly string[];
  /** Its other headers by their name in small letters. */
  headers: ReadonlyMap<string, string>;
}

/** What nobody wrote by hand. */
export type Unwritten = 'automatic' | 'bounce' | 'list' | 'loop';

/** The header by which Zawn knows its own mails again. */
export const OWN_HEADER = 'x-zawn';

const ROBOTS = /^(mailer-daemon|postmaster|no-?reply|do-?not-?reply|bounces?)([+-].*)?@/i;

/**
 * Whether an email was written by a program rather than a person (RFC 3834, RFC 3464, RFC 2919).
 * @param envelopeFrom the address that bounces go to; empty for a bounce.
 * @returns what it is and by which mark; undefined when a person may have written it.
 */
export function unwritten(
  { headers, from }: Message,
  envelopeFrom: string,
): { is: Unwritten; why: string } | undefined {
  const header = (name: string) => headers.get(name)?.toLowerCase() ?? '';
  if (headers.has(OWN_HEADER)) return { is: 'loop', why: 'It came from Zawn itself' };
  if (/multipart\/report/.test(header('content-type')) || header('x-failed-recipients'))
    return { is: 'bounce', why: 'A report of delivery' };
  if (/^(mailer-daemon|postmaster)@/i.test(from.address))
    return { is: 'bounce', why: `From ${from.address}` };
  const submitted = header('auto-submitted').split(';')[0].trim();
  if (submitted && submitted !== 'no') return { is: 'automatic', why: `Auto-Submitted: ${submitted}` };
  if (headers.has('x-autoreply') || headers.has('x-autorespond'))
    return { is: 'automatic', why: 'It says it is an automatic reply' };
  if (headers.has('list-id') || headers.has('list-unsubscribe'))
    return {
      is: 'list',
      why: headers.has('list-id') ? `List ${header('list-id')}` : 'It can be unsubscribed from',
    };
  if (/^(bulk|list|junk)$/.test(header('precedence')))
    return { is: 'list', why: `Precedence: ${header('precedence')}` };
  if (envelopeFrom === '' && headers.has('return-path'))
    return { is: 'bounce', why: 'Nobody would get an answer to it' };
  if (ROBOTS.test(from.address)) return { is: 'automatic', why: `From ${from.address}` };
  return undefined;
}

/** The name of a thread: the message it began with. */
export function threadOf({ references, inReplyTo, messageId }: Message): string | undefined {
  return references[0] ?? inReplyTo ?? messageId;
}

/** The messages that a message answers, the one it answers directly first. */
export function answered({ references, inReplyTo }: Message): string[] {
  return [...new Set([...(inReplyTo ? [inReplyTo] : []), ...[...references].reverse()])];
}

/** An email as it came, taken apart: what is needed to know who wrote about what. */
export interface Message {
  from: { name: string; address: string };
  /** Where answers are to go, when that is somewhere else. */
  replyTo?: { name: string; address: string };
  /** How many servers it went through. */
  hops?: number;
  /** The addresses it was handed over to on its way. */
  deliveredTo?: readonly string[];
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

/** Servers that a message goes through at most before it is taken to go in circles. */
const MOST_HOPS = 25;

/** How automatic answers and reports of delivery begin, in the languages that files are read in. */
const AUTOMATIC_SUBJECT =
  /^((re|aw|sv|antw|odp): ?)?((automatic|auto)[- ]?(reply|response|answer)|autoreply|out of (the )?office( (reply|message|notice|notification))? *([:,(–-]|$)|(abwesenheitsnotiz|automatische antwort|abwesend)\b|réponse automatique|absence du bureau|respuesta automática|fuera de la oficina|risposta automatica|fuori sede|fuori ufficio|automatisch antwoord|afwezigheidsbericht|niet aanwezig *:|autosvar|automatiskt svar|frånvaro|automatisk svar|fravær|automatisk svarbesked|automatyczna odpowiedź|poza biurem|resposta automática|fora do escritório|ausência)/iu;
const REPORT_SUBJECT =
  /^(undeliver(able|ed)|delivery status notification|delivery (failure|failed)|mail delivery (failed|system)|returned mail|failure notice|unzustellbar|nicht zustellbar|message non remis|no se puede entregar|mancato recapito|onbestelbaar|kan inte levereras|olevererat|kan ikke leveres|nie można dostarczyć|não entregue)/iu;

const ROBOTS = /^(mailer-daemon|postmaster|no-?reply|do-?not-?reply|bounces?)([+-].*)?@/i;

/** Whether an address is one that nobody reads. */
const isRobot = (address: string) => ROBOTS.test(address);

/** Who wrote, as answers are to go: a form or a shop writes from an address that nobody reads, for somebody else. */
export function writerOf({ from, replyTo }: Message): { name: string; address: string } {
  const isFor = replyTo !== undefined && replyTo.address !== '' && !isRobot(replyTo.address);
  return isRobot(from.address) && isFor ? replyTo : from;
}

/**
 * Whether an email was written by a program rather than a person (RFC 3834, RFC 3464, RFC 2919).
 * @param envelopeFrom the address that bounces go to; empty for a bounce, undefined where there was no envelope.
 * @returns what it is and by which mark; undefined when a person may have written it.
 */
export function unwritten(
  message: Message,
  envelopeFrom: string | undefined,
): { is: Unwritten; why: string } | undefined {
  const { headers, from, subject, hops = 0 } = message;
  const header = (name: string) => headers.get(name)?.toLowerCase() ?? '';
  if (headers.has(OWN_HEADER)) return { is: 'loop', why: 'It came from Zawn itself' };
  if (hops > MOST_HOPS) return { is: 'loop', why: `It went through ${hops} servers` };
  if (/multipart\/report/.test(header('content-type')) || header('x-failed-recipients'))
    return { is: 'bounce', why: 'A report of delivery' };
  if (/^(mailer-daemon|postmaster)@/i.test(from.address))
    return { is: 'bounce', why: `From ${from.address}` };
  const submitted = header('auto-submitted').split(';')[0].trim();
  if (submitted && submitted !== 'no') return { is: 'automatic', why: `Auto-Submitted: ${submitted}` };
  if (headers.has('x-autoreply') || headers.has('x-autorespond'))
    return { is: 'automatic', why: 'It says it is an automatic reply' };
  const suppressed = header('x-auto-response-suppress');
  if (suppressed && suppressed !== 'none')
    return { is: 'automatic', why: 'It asks for no automatic answer, as only programs do' };
  if (REPORT_SUBJECT.test(subject)) return { is: 'bounce', why: `Its subject: ${subject.slice(0, 80)}` };
  if (AUTOMATIC_SUBJECT.test(subject))
    return { is: 'automatic', why: `Its subject: ${subject.slice(0, 80)}` };
  if (headers.has('list-id') || headers.has('list-unsubscribe'))
    return {
      is: 'list',
      why: headers.has('list-id') ? `List ${header('list-id')}` : 'It can be unsubscribed from',
    };
  if (/^(bulk|list|junk)$/.test(header('precedence')))
    return { is: 'list', why: `Precedence: ${header('precedence')}` };
  const isUnanswerable = envelopeFrom === '' || /^<\s*>$/.test(header('return-path'));
  if (isUnanswerable) return { is: 'bounce', why: 'Nobody would get an answer to it' };
  if (isRobot(from.address) && writerOf(message) === from)
    return { is: 'automatic', why: `From ${from.address}` };
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

import { addDays, type Day } from '@zawn/core';
import { type Book, type Row } from './book';
import { workday } from './workday';
import { type Random } from './random';

/** Mails that the two years left on the timelines. */
const MAILS = 800;

const subjects = [
  'Gauge for the outer quay',
  'Offer for two stations',
  'Dates for the survey',
  'Data service from spring on',
  'Calibration of the old sensors',
  'Drawings of the mast',
  'Telemetry at the weir',
  'Who signs on your side',
];
const asked = [
  'Could you send the data sheet once more? The board meets on Thursday.',
  'Two questions about the offer: is the mast included, and how long does the survey take?',
  'The survey fits us in the second week. Please confirm who is coming.',
  'We have the drawings now and see no reason to wait.',
  'Our budget is being settled this month. I will write as soon as I know more.',
];
const answered = [
  'Thank you for your time today. The data sheet is attached, and I will call next week.',
  'The mast is included. The survey takes one day, and the report follows within a week.',
  'Confirmed for the second week. Our engineer will call the harbour office the day before.',
  'As agreed, here is the offer. It holds until the end of the month.',
  'A short reminder of our offer. Is there anything I can make clearer?',
];

interface Conversation {
  links: Pick<Row, 'lead' | 'contact' | 'account' | 'deal'>;
  email: string;
  name: string;
  owner: number;
  day: Day;
}

/**
 * Writes what reps and the people they deal with wrote to each other: on working days, around what else was done with
 * them. Written last and with dice of its own, so that nothing else of the company depends on it.
 */
export function writeMails(book: Book, random: Random, today: Day): void {
  const done = book
    .rows('activity')
    .filter(({ doneAt, contact, lead }) => doneAt !== null && (contact !== null || lead !== null));
  const addressOf = new Map(book.rows('person').map(({ id, email }) => [id, String(email)]));
  for (let count = 0; count < MAILS && done.length > 0;) {
    const { lead, contact, account, deal, owner, doneAt } = random.pick(done);
    const with_ = contact === null ? book.row('lead', Number(lead)) : book.row('contact', Number(contact));
    const day = workday(addDays(String(doneAt).slice(0, 10), random.int(0, 2)));
    if (!with_.email || day >= today) continue;
    const conversation: Conversation = {
      links: { lead, contact, account, deal },
      email: String(with_.email),
      name: String(with_.name),
      owner: Number(owner),
      day,
    };
    count += write(book, random, conversation, addressOf, Math.min(random.int(1, 3), MAILS - count), today);
  }
}

/** Writes a thread of so many mails at most, each a few days after the one before. Returns how many it has. */
function write(
  book: Book,
  random: Random,
  { links, email, name, owner, day }: Conversation,
  addressOf: ReadonlyMap<unknown, string>,
  most: number,
  today: Day,
): number {
  const ours = addressOf.get(owner) ?? '';
  const subject = random.pick(subjects);
  let isOurs = random.chance(0.6);
  let thread: string | undefined;
  let on = day;
  let written = 0;
  for (; written < most && on < today; written += 1) {
    const sentAt = `${on}T${String(random.int(8, 16)).padStart(2, '0')}:${random.int(10, 59)}:00.000Z`;
    const messageId = `<${sentAt.replace(/\D/g, '')}.${book.count('mail') + 1}@${(isOurs ? ours : email).split('@')[1]}>`;
    thread ??= messageId;
    const person = isOurs ? owner : null;
    book.create(
      'mail',
      { at: sentAt, person },
      {
        subject: written === 0 ? subject : `Re: ${subject}`,
        direction: isOurs ? 'out' : 'in',
        sender: isOurs ? ours : email,
        senderName: isOurs ? null : name,
        recipients: isOurs ? email : ours,
        sentAt,
        body: random.pick(isOurs ? answered : asked),
        attachments: null,
        messageId,
        thread,
        owner,
        ...links,
      },
    );
    isOurs = !isOurs;
    on = workday(addDays(on, random.int(1, 4)));
  }
  return written;
}

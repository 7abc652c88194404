import { createHash } from 'node:crypto';
import { recordingOf } from '../features/calls/recording';
import { type Book } from './book';

/** Recordings in the demo: of the last calls, none of them long. */
const RECORDED = 12;
const LONGEST_MINUTES = 4;

/** What the last calls sound like. */
export function recordLastCalls(book: Book): void {
  const calls = book
    .rows('activity')
    .filter(
      ({ kind, doneAt, number, minutes, outcome }) =>
        kind === 'call' &&
        doneAt !== null &&
        number !== null &&
        outcome !== 'noAnswer' &&
        Number(minutes) <= LONGEST_MINUTES,
    )
    .toSorted((a, b) => (String(a.doneAt) < String(b.doneAt) ? 1 : -1))
    .slice(0, RECORDED);
  for (const call of calls) {
    const { doneAt, owner, lead, contact, account, deal } = call;
    const at = String(doneAt);
    const sound = recordingOf(String(call.number), 60 * Number(call.minutes));
    const hash = createHash('sha256').update(sound).digest('hex');
    book.files.set(hash, sound);
    call.recording = book.create(
      'file',
      { at, person: Number(owner) },
      {
        name: `Call ${at.slice(0, 16).replace('T', ' ').replace(':', '.')}.wav`,
        size: sound.length,
        mediaType: 'audio/wav',
        hash,
        use: 'recording',
        ...{ owner, lead, contact, account, deal },
      },
    );
  }
}

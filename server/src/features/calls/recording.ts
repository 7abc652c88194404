import { createHash } from 'node:crypto';

/** Samples a second, a byte each: enough to tell two voices apart, and small. */
const RATE = 4000;
const HEADER_BYTES = 44;
/** What goes on for longer than half an hour is recorded no further. */
const LONGEST_SECONDS = 1800;
const SILENCE = 128;
/** The two who talk, by the pitch of their voices in hertz. */
const VOICES = [118, 187] as const;

/** The head of a WAV file: PCM, one channel, eight bits. */
function header(samples: number): Buffer {
  const head = Buffer.alloc(HEADER_BYTES);
  head.write('RIFF', 0, 'ascii');
  head.writeUInt32LE(HEADER_BYTES - 8 + samples, 4);
  head.write('WAVEfmt ', 8, 'ascii');
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(RATE, 24);
  head.writeUInt32LE(RATE, 28);
  head.writeUInt16LE(1, 32);
  head.writeUInt16LE(8, 34);
  head.write('data', 36, 'ascii');
  head.writeUInt32LE(samples, 40);
  return head;
}

/** Two seconds of somebody talking: a tone that swells with each syllable, and can be repeated without a crack. */
function speech(pitch: number, syllables: number): Buffer {
  const samples = 2 * RATE;
  const sound = Buffer.alloc(samples);
  for (let at = 0; at < samples; at += 1) {
    const turn = (2 * Math.PI * at) / RATE;
    const loudness = 40 * Math.max(0, Math.sin((turn * syllables) / 2));
    sound[at] = SILENCE + Math.round(loudness * (Math.sin(pitch * turn) + 0.5 * Math.sin(2 * pitch * turn)));
  }
  return sound;
}

/**
 * The recording of a simulated call as a WAV file: two voices that take turns, made of tones. The same number and
 * length give the same sound.
 * @param seconds how long was talked; at most half an hour is recorded.
 */
export function recordingOf(number: string, seconds: number): Uint8Array {
  const samples = Math.min(seconds, LONGEST_SECONDS) * RATE;
  const sound = Buffer.alloc(samples, SILENCE);
  const dice = createHash('sha256').update(number).digest();
  const voices = VOICES.map((pitch, at) => speech(pitch, 3 + (dice[at] % 3)));
  for (let from = 0, turn = 0; from < samples; turn += 1) {
    const until = Math.min(samples, from + RATE * (2 + ((dice[turn % dice.length] + turn) % 5)));
    sound.fill(voices[turn % 2], from, until);
    // Somebody takes a breath.
    from = until + RATE / 2;
  }
  return Buffer.concat([header(samples), sound]);
}

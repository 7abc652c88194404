import { type CallEnd } from '@zawn/core';

/** What happens on a line, told by whoever carries it; each happens once, and `ended` last. */
export interface LineEvents {
  answered(by: 'person' | 'machine'): void;
  /**
   * @param seconds how long was talked.
   * @param recording what was said, as a WAV file; null where nothing was.
   */
  ended(how: CallEnd, seconds: number, recording: Uint8Array | null): void;
}

/** A line under way. */
export interface Line {
  /** Takes a call that came in. */
  answer(): void;
  /** Ends it; where it has ended already nothing happens. */
  hangUp(): void;
}

/** What carries calls: a stand-in ships with Zawn, and a real exchange can take its place. */
export abstract class Phone {
  /** Is told of a number that rings somebody here of itself; whoever takes calls sets it. */
  incoming?: (person: number, number: string) => void;

  /**
   * Rings a number.
   * @param by the person here who rings it.
   */
  abstract dial(number: string, by: number, events: LineEvents): Line;
  /** A call that comes in rings here. */
  abstract ring(number: string, events: LineEvents): Line;
}

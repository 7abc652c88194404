/** A piece of work that waits for a thread. */
interface Waiting {
  person: number;
  begin: () => void;
  refuse: (error: Error) => void;
}

/**
 * Lets so much work run at once, and of that only a share for one person, so that whoever asks much waits for
 * themselves. Within a person's share it is first come, first served.
 */
export class Shares {
  private readonly running = new Map<number, number>();
  private waiting: Waiting[] = [];
  private total = 0;

  constructor(
    private readonly atOnce: number,
    private readonly each: number,
  ) {}

  /**
   * Does the work when it is its turn.
   * @param signal aborted, work that still waits is never begun.
   */
  async run<T>(person: number, work: () => Promise<T>, signal?: AbortSignal): Promise<T> {
    await this.turn(person, signal);
    try {
      return await work();
    } finally {
      this.total -= 1;
      this.running.set(person, (this.running.get(person) ?? 1) - 1);
      if (this.running.get(person) === 0) this.running.delete(person);
      this.beginNext();
    }
  }

  /** Refuses whatever still waits. */
  refuseAll(error: Error): void {
    for (const { refuse } of this.waiting.splice(0)) refuse(error);
  }

  private turn(person: number, signal?: AbortSignal): Promise<void> {
    return new Promise((resolve, reject) => {
      const giveUp = () => {
        this.waiting = this.waiting.filter((other) => other !== waiting);
        reject(signal?.reason as Error);
      };
      // One request may take many turns: it is listened to while it waits alone.
      const settled = () => signal?.removeEventListener('abort', giveUp);
      const waiting: Waiting = {
        person,
        begin: () => {
          settled();
          resolve();
        },
        refuse: (error) => {
          settled();
          reject(error);
        },
      };
      signal?.addEventListener('abort', giveUp, { once: true });
      if (signal?.aborted) return reject(signal.reason as Error);
      this.waiting.push(waiting);
      this.beginNext();
    });
  }

  private beginNext(): void {
    while (this.total < this.atOnce) {
      const next = this.waiting.find(({ person }) => (this.running.get(person) ?? 0) < this.each);
      if (!next) return;
      this.waiting = this.waiting.filter((other) => other !== next);
      this.total += 1;
      this.running.set(next.person, (this.running.get(next.person) ?? 0) + 1);
      next.begin();
    }
  }
}

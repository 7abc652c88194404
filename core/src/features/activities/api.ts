import { type AnyRecord } from '../../kernel/catalogue';

declare module '../../kernel/timeline/api' {
  interface TimelineKinds {
    activity: { record: AnyRecord };
  }
}

/** Who was given a task with others; nobody where it is one person's alone. */
export interface GivenTogether {
  people: { person: number; isDone: boolean }[];
}

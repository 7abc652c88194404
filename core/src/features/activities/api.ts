import { type AnyRecord } from '../../kernel/catalogue';

declare module '../../kernel/timeline/api' {
  interface TimelineKinds {
    activity: { record: AnyRecord };
  }
}

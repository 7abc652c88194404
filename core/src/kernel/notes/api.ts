import { type AnyRecord } from '../catalogue';

declare module '../timeline/api' {
  interface TimelineKinds {
    note: { record: AnyRecord };
  }
}

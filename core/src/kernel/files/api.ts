import { type AnyRecord } from '../catalogue';

declare module '../timeline/api' {
  interface TimelineKinds {
    file: { record: AnyRecord };
  }
}

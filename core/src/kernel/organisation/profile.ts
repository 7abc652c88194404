import { type RecordOf } from '../catalogue';

/** The fields of their own entry that people say themselves. */
export const profileFields = [
  'name',
  'jobTitle',
  'timeZone',
  'workingDays',
  'opens',
  'closes',
  'signature',
  'photo',
] as const;

/** What a person says about themselves. */
export type Profile = Pick<RecordOf<'person'>, (typeof profileFields)[number]>;

/** The largest photo that is kept, in bytes: browsers make them smaller first. */
export const LARGEST_PHOTO = 400_000;

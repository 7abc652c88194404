import { type HooksOf } from './hooks';
import { type Unit } from './unit';

export { type Values } from './values';

/** What a feature adds to the writing of an object. */
export type RecordHooks = HooksOf<Unit>;

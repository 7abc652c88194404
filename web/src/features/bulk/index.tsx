import { type Feature } from '../../kernel/shell/feature';
import { lazyPart } from '../../platform/frame/lazy-part';

const BulkBar = lazyPart(async () => (await import('./bulk-bar')).BulkBar);

/** Doing one thing to many records. */
export const bulk: Feature = {
  MarkedRows: BulkBar,
};

import { lazy } from 'react';
import { type Feature } from '../../kernel/shell/feature';

const BulkBar = lazy(() => import('./bulk-bar').then(({ BulkBar: part }) => ({ default: part })));

/** Doing one thing to many records. */
export const bulk: Feature = {
  MarkedRows: BulkBar,
};

import { type ImportLook, type OwnCatalogue } from '@zawn/core';
import { type TargetKey } from '@zawn/core/imports';

/** What the browser sees in a file by itself, before the server has all of it. */
export type FirstLook = Pick<ImportLook, 'target' | 'table' | 'guess' | 'setup'>;

/** What the page asks: the beginning of a file, and what its fields may be. */
export interface Look {
  file: Blob;
  own: OwnCatalogue;
  target: TargetKey | undefined;
  owner: number;
}

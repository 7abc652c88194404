import { type PackDesign } from '@zawn/core';
import { type ShownPage } from './page-view';
import { type ShownPack } from './use-pack';

/** The pages of a pack as they are gone through: what was decided last time first, what is noted this time last. */
export function pagesShown(shown: Extract<ShownPack, { design: PackDesign }>): ShownPage[] {
  if (shown.kind === 'ready') return [...shown.design.pages];
  const { id, previous } = shown.pack;
  return [
    ...(previous === null ? [] : [{ kind: 'noted' as const, key: 'before' as const, pack: previous }]),
    ...shown.design.pages,
    { kind: 'noted', key: 'noted', pack: id },
  ];
}

/** What the pages that stand there by themselves are called. */
export const notedNames = { before: 'What was decided last time', noted: 'What was decided' } as const;

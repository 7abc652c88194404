import { type EntriesWritten } from '@zawn/core';

/** What became of entries, after what was done: `Entered 3 rates: 2 new, 1 as they were.` */
export function enteredInWords(label: string, written: EntriesWritten, replaced: string): string {
  const { created, changed, same } = written;
  const parts = [
    created > 0 ? `${created} new` : '',
    changed > 0 ? `${changed} ${replaced}` : '',
    same > 0 ? `${same} as they were` : '',
  ];
  return `${label}: ${parts.filter(Boolean).join(', ')}.`;
}

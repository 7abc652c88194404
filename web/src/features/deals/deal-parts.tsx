import { type SheetProps } from '../../kernel/shell/feature';
import { GuidePart } from '../guides/guide-part';
import { ValuePart } from './value-part';
import { WhoDecides } from './who-decides';

/** What stands on a deal's sheet between its climb and its timeline. */
export default function DealParts(sheet: SheetProps) {
  return (
    <>
      <GuidePart sheet={{ ...sheet, object: 'deal' }} isAsked={sheet.record.outcome === 'open'} />
      <WhoDecides {...sheet} />
      <ValuePart {...sheet} />
    </>
  );
}

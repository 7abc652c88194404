import { Button } from 'antd';
import { Phone } from 'lucide-react';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { type SheetProps } from '../../kernel/shell/feature';
import { useRing } from './current-call';
import './recording.css';

/** Calls whom a sheet is about, by the first number that is on file. */
export function CallButton({ object, record }: SheetProps) {
  const ring = useRing();
  const canBeCalled = object === 'deal' ? record.contact !== null : record.phone || record.mobile;
  const call = () => void ring({ on: { object, id: record.id } });
  useShortcuts('This record', canBeCalled ? [{ keys: 'p', does: 'Call', run: call }] : []);
  if (!canBeCalled) return null;
  return (
    <Button
      className="call-button"
      size="small"
      icon={<Phone size={14} />}
      onClick={call}
      aria-keyshortcuts="p"
    >
      Call
    </Button>
  );
}

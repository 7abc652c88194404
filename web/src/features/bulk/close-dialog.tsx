import { type BulkRequest, type Selection } from '@zawn/core';
import { Modal } from 'antd';
import { useState } from 'react';
import { useSession } from '../../platform/sessions/session';
import {
  ClosingFields,
  closingOf,
  missingOf,
  nothingSaid,
  type Ending,
  type SaidOfEnd,
} from '../deals/closing-fields';
import { BulkForecast } from './bulk-forecast';
import { useBulkDialog } from './use-bulk';

interface Props {
  /** What is closed, and how many of them: `12 deals`. */
  what: string;
  selection: Selection;
  onDone: () => void;
  close: () => void;
}

/** Closes many deals alike: won as they stand, or lost for one reason. */
export default function CloseDialog({ what, selection, onDone, close }: Props) {
  const { today } = useSession();
  const [ending, setEnding] = useState<Ending>();
  const [said, setSaid] = useState<SaidOfEnd>(() => nothingSaid(today));
  const closing = closingOf(ending, said, today);
  const request: BulkRequest | undefined = closing && {
    object: 'deal',
    selection,
    action: { do: 'close', closing },
  };
  const { isBusy, run } = useBulkDialog(request, onDone, close);
  return (
    <Modal
      open
      title={`Close ${what}`}
      okText={missingOf(ending, said, today) ?? `Close ${what} as ${closing?.outcome ?? ''}`}
      okButtonProps={{ disabled: !request, loading: isBusy }}
      onOk={run}
      onCancel={close}
      width={620}
    >
      <div className="close-deal">
        <ClosingFields
          ending={ending}
          end={setEnding}
          said={said}
          say={(part) => setSaid({ ...said, ...part })}
        />
      </div>
      {request && <BulkForecast request={request} />}
    </Modal>
  );
}

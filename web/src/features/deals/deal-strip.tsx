import { useDraggable } from '@dnd-kit/core';
import { type AnyRecord } from '@zawn/core';
import { Dropdown } from 'antd';
import { EllipsisVertical } from 'lucide-react';
import { type KeyboardEvent } from 'react';
import { briefMoney, nearDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { useAttention } from './use-attention';

export type Direction = 'up' | 'down' | 'left' | 'right';

const directions: Record<string, Direction> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

interface Props {
  deal: AnyRecord;
  accountName: string | undefined;
  onOpen: () => void;
  onMove: (direction: Direction) => void;
  onClose: () => void;
}

/** A deal in the grid: who and how much, and below what comes next or why it needs attention. */
export function DealStrip({ deal, accountName, onOpen, onMove, onClose }: Props) {
  const { today, policy } = useSession();
  const [pressing] = useAttention()(deal);
  const { setNodeRef, setActivatorNodeRef, listeners, isDragging } = useDraggable({ id: deal.id });
  const name = String(deal.name);
  // Nothing where amounts are hidden.
  const value = deal.value === undefined ? '' : briefMoney(Number(deal.value), String(deal.currency));
  const next = deal.nextStepOn ? `→ ${nearDate(String(deal.nextStepOn), today)}` : '';
  const isLate = pressing !== undefined && /past|overdue/.test(pressing);
  const onKeyDown = (event: KeyboardEvent) => {
    const direction = directions[event.key];
    if (!direction || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    onMove(direction);
  };
  const menu = [
    { key: 'open', label: 'Open', onClick: onOpen },
    ...(policy.may('closeDeals') ? [{ key: 'close', label: 'Close deal', onClick: onClose }] : []),
  ];
  return (
    <div
      ref={setNodeRef}
      className={`strip ${isDragging ? 'strip-dragged' : ''} ${pressing ? (isLate ? 'strip-late' : 'strip-pressing') : ''}`}
      data-deal={deal.id}
    >
      <button
        ref={setActivatorNodeRef}
        type="button"
        className="strip-main"
        {...listeners}
        onClick={onOpen}
        onKeyDown={onKeyDown}
        title={`${name}\n${pressing ?? next}`}
      >
        <span className="strip-line">
          <b className="clip">{accountName ?? name}</b>
          <span>{value}</span>
        </span>
        <span
          className={`strip-second clip ${pressing ? (isLate ? 'attention late' : 'attention') : 'second'}`}
        >
          {pressing ?? next}
        </span>
        <span className="visually-hidden">Arrow keys move it.</span>
      </button>
      <Dropdown trigger={['click']} menu={{ items: menu }}>
        <button type="button" className="strip-menu" aria-label={`Actions for ${name}`}>
          <EllipsisVertical size={14} aria-hidden />
        </button>
      </Dropdown>
    </div>
  );
}

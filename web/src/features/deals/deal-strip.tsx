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
  /** Whether it stays where it is, as on a screen that shows one stage. */
  isFixed?: boolean;
  /** Whether it is moved together with others. */
  isMarked?: boolean;
  onMark: () => void;
  onOpen: () => void;
  onMove: (direction: Direction) => void;
  onClose: () => void;
}

/** What a deal is about, beside the account that its name may begin with. */
function subjectOf(name: string, account: string | undefined): string {
  if (account === undefined) return '';
  return name.startsWith(account) ? name.slice(account.length).replace(/^[\s:,–-]+/, '') : name;
}

/** A deal in the grid: who and how much, and below what comes next or why it needs attention. */
export function DealStrip({
  deal,
  accountName,
  isFixed = false,
  isMarked = false,
  onMark,
  onOpen,
  onMove,
  onClose,
}: Props) {
  const { today, policy } = useSession();
  const noticed = useAttention()(deal);
  const pressing = noticed.find(({ isPressing }) => isPressing)?.words;
  const { setNodeRef, setActivatorNodeRef, listeners, isDragging } = useDraggable({
    id: deal.id,
    disabled: isFixed,
  });
  const name = String(deal.name);
  const subject = subjectOf(name, accountName);
  // Nothing where amounts are hidden.
  const value = deal.value === undefined ? '' : briefMoney(Number(deal.value), String(deal.currency));
  const next = [
    deal.nextStepOn ? `→ ${nearDate(String(deal.nextStepOn), today)}` : '',
    // In the fewest words, beside the next step.
    noticed.some(({ kind }) => kind === 'noDecider') ? 'no decider' : '',
  ]
    .filter(Boolean)
    .join(' · ');
  const isLate = pressing !== undefined && /past|overdue/.test(pressing);
  const onKeyDown = (event: KeyboardEvent) => {
    const direction = directions[event.key];
    if (!direction || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    onMove(direction);
  };
  const menu = [
    { key: 'open', label: 'Open', onClick: onOpen },
    ...(isFixed ? [] : [{ key: 'mark', label: isMarked ? 'Take the mark away' : 'Mark', onClick: onMark }]),
    ...(policy.may('closeDeals') ? [{ key: 'close', label: 'Close deal', onClick: onClose }] : []),
  ];
  return (
    <div
      ref={setNodeRef}
      className={`strip ${isDragging ? 'strip-dragged' : ''} ${isFixed ? 'strip-fixed' : ''} ${isMarked ? 'strip-marked' : ''}`}
      data-deal={deal.id}
    >
      <button
        ref={setActivatorNodeRef}
        type="button"
        className="strip-main"
        {...listeners}
        onClick={(event) => (event.ctrlKey || event.metaKey ? onMark() : onOpen())}
        onKeyDown={onKeyDown}
        title={`${name}\n${pressing ?? next}`}
      >
        <span className="strip-name">
          <span className="strip-value">{value}</span>
          <b>{accountName ?? name}</b>
          {subject && <span className="second"> {subject}</span>}
        </span>
        <span
          className={`strip-second clip ${pressing ? (isLate ? 'attention late' : 'attention') : 'second'}`}
        >
          {pressing ?? next}
        </span>
        <span className="visually-hidden">Arrow keys move it.{isMarked && ' Marked.'}</span>
      </button>
      <Dropdown trigger={['click']} menu={{ items: menu }}>
        <button type="button" className="strip-menu" aria-label={`Actions for ${name}`}>
          <EllipsisVertical size={14} aria-hidden />
        </button>
      </Dropdown>
    </div>
  );
}

import { useQuery } from '@tanstack/react-query';
import { type Guided, type GuideLine, type HeldMove } from '@zawn/core';
import { Button, Checkbox } from 'antd';
import { Check } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { oneRecord, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { counted } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Fact } from '../../kernel/records/fact';
import { type SheetProps } from '../../kernel/shell/feature';
import { useGuide, useHeldMove, useStepName } from './use-guide';
import './guide.css';

const ACCOUNT = 'account.';

/** A field of the record or of a deal's account, answered where it is asked. */
function AskedField({ line, sheet, mayEdit }: { line: GuideLine; sheet: SheetProps; mayEdit: boolean }) {
  const path = String(line.field);
  const isOfAccount = path.startsWith(ACCOUNT);
  const account = Number(sheet.record.account);
  const { data } = useQuery({ ...oneRecord('account', account), enabled: isOfAccount && account > 0 });
  const [object, record, names, key] = isOfAccount
    ? (['account', data?.record, data?.names ?? {}, path.slice(ACCOUNT.length)] as const)
    : ([sheet.object, sheet.record, sheet.names, path] as const);
  if (!record) return <span className="second">once the deal has an account</span>;
  const isOpen = isOfAccount ? (data?.may.includes('edit') ?? false) : mayEdit;
  return <Fact object={object} fieldKey={key} record={record} names={names} readOnly={!isOpen} />;
}

function Line({ line, sheet, mayEdit }: { line: GuideLine; sheet: SheetProps; mayEdit: boolean }) {
  const write = useWrite();
  const { tick } = line;
  // Others are planned first, and done then.
  const isTalk = line.activityKind === 'call' || line.activityKind === 'meeting';
  const toggle = () =>
    write.mutate(
      tick
        ? { method: 'DELETE', path: pathOf('guideTick', tick.id), version: tick.version }
        : { method: 'POST', path: '/guide-ticks', body: { [sheet.object]: sheet.record.id, item: line.id } },
    );
  return (
    <li className={line.isDone ? 'guide-done' : ''}>
      {line.kind === 'tick' ? (
        <Checkbox checked={line.isDone} disabled={!mayEdit} onChange={toggle}>
          {line.words}
        </Checkbox>
      ) : (
        <>
          <span className="guide-sign">{line.isDone && <Check size={13} aria-label="done" />}</span>
          <span>{line.words}</span>
        </>
      )}
      {line.needed && !line.isDone && <span className="guide-needed">required</span>}
      <span className="guide-answer">
        {line.kind === 'field' && <AskedField line={line} sheet={sheet} mayEdit={mayEdit} />}
        {line.kind === 'activity' && !line.isDone && mayEdit && (
          <Button
            size="small"
            type="text"
            onClick={() => sheet.write(isTalk ? String(line.activityKind) : 'plan')}
          >
            {isTalk ? 'Log it' : 'Plan it'}
          </Button>
        )}
      </span>
    </li>
  );
}

interface GoOnProps {
  sheet: SheetProps & { object: Guided };
  held: HeldMove;
  /** How many required items are open. */
  open: number;
  /** What is done instead of changing the step. */
  instead?: { words: string; before: string; run: () => void } | undefined;
}

/** Makes a move that was held up, once nothing that is required is open any more. */
function GoOn({ sheet: { object, record }, held, open: left, instead }: GoOnProps) {
  const { open } = useOpening();
  const write = useWrite();
  const nameOf = useStepName(object);
  const name = nameOf(held.to) ?? 'the next step';
  const leave = () => open(object, record.id, { replace: true });
  const place = useRef<HTMLParagraphElement>(null);
  useEffect(() => {
    // Whoever was held up goes on here, by keyboard too.
    place.current?.scrollIntoView({ block: 'center' });
    place.current?.focus({ preventScroll: true });
  }, [held.to]);
  const { to, closeOn } = held;
  const body = object === 'deal' ? { stage: Number(to), ...(closeOn ? { closeOn } : {}) } : { status: to };
  const move = () =>
    write.mutate(
      { method: 'PATCH', path: pathOf(object, record.id), version: record.version, body },
      { onSuccess: leave },
    );
  return (
    <p ref={place} tabIndex={-1} className="guide-go-on" role="status">
      <span>
        {left > 0
          ? `${instead?.before ?? `Before it goes on to ${name}`}: ${counted(left, 'required item')} still open.`
          : `Nothing holds it up any more.`}
      </span>
      <Button
        type="primary"
        size="small"
        disabled={left > 0}
        loading={write.isPending}
        onClick={() => {
          if (!instead) return move();
          leave();
          instead.run();
        }}
      >
        {instead?.words ?? `Move to ${name}`}
      </Button>
      <Button type="text" size="small" onClick={leave}>
        Leave it where it is
      </Button>
    </p>
  );
}

interface GuidePartProps {
  sheet: SheetProps & { object: Guided };
  /** Nothing is asked of what has ended. */
  isAsked: boolean;
  /** How a move to some step is made, where it takes more than changing the step. */
  instead?: (to: string) => GoOnProps['instead'];
  /** Whether what stayed open of the steps before is in view at once. */
  showsBefore?: boolean;
}

/** What the guide of a record's step asks for, answered in place, and what stayed open of the steps before. */
export function GuidePart({ sheet, isAsked, instead, showsBefore = false }: GuidePartProps) {
  const { object, record } = sheet;
  const move = useHeldMove(object, record);
  const held = isAsked ? move : undefined;
  const nameOf = useStepName(object);
  const { data } = useGuide(object, record, held, isAsked);
  if (!isAsked || !data || data.lines.length === 0) return null;
  const mayEdit = sheet.may.includes('edit');
  const at = (when: GuideLine['when']) => data.lines.filter((line) => line.when === when);
  const [now, before] = [at('now'), at('before')];
  const onTheWay = at('ahead').filter(({ needed }) => needed);
  const done = now.filter(({ isDone }) => isDone).length;
  const isHolding = ({ needed, isDone }: GuideLine) => needed && !isDone;
  const shown = (lines: readonly GuideLine[]) => (
    <ul>
      {lines.map((line) => (
        <Line key={line.id} line={line} sheet={sheet} mayEdit={mayEdit} />
      ))}
    </ul>
  );
  return (
    <section className="guide" aria-label="Guide">
      {held && mayEdit && (
        <GoOn
          sheet={sheet}
          held={held}
          open={[...now, ...onTheWay].filter(isHolding).length}
          instead={instead?.(held.to)}
        />
      )}
      {now.length > 0 && (
        <>
          <h3>
            {nameOf(object === 'deal' ? record.stage : record.status)}{' '}
            <span className="second">
              {done} of {now.length} done
            </span>
          </h3>
          {shown(now)}
        </>
      )}
      {held && onTheWay.length > 0 && (
        <>
          <h3>On the way</h3>
          {shown(onTheWay)}
        </>
      )}
      {before.length > 0 && (
        <details open={showsBefore}>
          <summary>{before.length} still open from before</summary>
          {shown(before)}
        </details>
      )}
    </section>
  );
}

import { useQuery } from '@tanstack/react-query';
import { type AnyRecord, type DealGuide, type GuideLine } from '@zawn/core';
import { Button, Checkbox } from 'antd';
import { Check } from 'lucide-react';
import { call } from '../../platform/api/client';
import { oneRecord, pathOf, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { counted } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Fact } from '../../kernel/records/fact';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { heldMoveIn, type HeldMove } from './held-move';
import './guide.css';

const ACCOUNT = 'account.';

/** A field of the deal or of its account, answered where it is asked. */
function AskedField({ line, sheet, mayEdit }: { line: GuideLine; sheet: SheetProps; mayEdit: boolean }) {
  const path = String(line.field);
  const isOfAccount = path.startsWith(ACCOUNT);
  const account = Number(sheet.record.account);
  const { data } = useQuery({ ...oneRecord('account', account), enabled: isOfAccount && account > 0 });
  const [object, record, names, key] = isOfAccount
    ? (['account', data?.record, data?.names ?? {}, path.slice(ACCOUNT.length)] as const)
    : (['deal', sheet.record, sheet.names, path] as const);
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
        : { method: 'POST', path: '/guide-ticks', body: { deal: sheet.record.id, item: line.id } },
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

/** Makes a move that was held up, once nothing that is required is open any more. */
function GoOn({ deal, held, open: left }: { deal: AnyRecord; held: HeldMove; open: number }) {
  const { stage } = useSession();
  const { open } = useOpening();
  const write = useWrite();
  const leave = () => open('deal', deal.id, { replace: true });
  const name = stage(held.stage)?.name ?? 'the next stage';
  return (
    <p className="guide-go-on" role="status">
      <span>
        {left > 0
          ? `Before it goes on to ${name}: ${counted(left, 'required item')} still open.`
          : `Nothing holds it up any more.`}
      </span>
      <Button
        type="primary"
        size="small"
        disabled={left > 0}
        loading={write.isPending}
        onClick={() =>
          write.mutate(
            { method: 'PATCH', path: pathOf('deal', deal.id), version: deal.version, body: { ...held } },
            { onSuccess: leave },
          )
        }
      >
        Move to {name}
      </Button>
      <Button type="text" size="small" onClick={leave}>
        Leave it where it is
      </Button>
    </p>
  );
}

/** What the guide of a deal's stage asks for, answered in place, and what stayed open of the stages before. */
export function GuidePart(sheet: SheetProps) {
  const { stage } = useSession();
  const { opened } = useOpening();
  const deal: AnyRecord = sheet.record;
  const isOpen = deal.outcome === 'open';
  const isAsked = opened?.object === 'deal' && opened.id === deal.id;
  const held = isAsked && isOpen ? heldMoveIn(opened.part) : undefined;
  const { data } = useQuery({
    queryKey: [RECORDS, 'guide', deal.id, held?.stage],
    queryFn: ({ signal }) =>
      call<DealGuide>('GET', `${pathOf('deal', deal.id)}/guide${held ? `?to=${held.stage}` : ''}`, {
        signal,
      }),
    enabled: isOpen,
    placeholderData: (before) => before,
  });
  if (!isOpen || !data || data.lines.length === 0) return null;
  const mayEdit = sheet.may.includes('edit');
  const now = data.lines.filter((line) => line.stage === deal.stage);
  const isAhead = ({ stage: of }: GuideLine) =>
    (stage(of)?.position ?? 0) > (stage(deal.stage)?.position ?? 0);
  const onTheWay = data.lines.filter((line) => isAhead(line) && line.needed);
  const earlier = data.lines.filter((line) => line.stage !== deal.stage && !isAhead(line));
  const done = now.filter(({ isDone }) => isDone).length;
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
          deal={deal}
          held={held}
          open={[...now, ...onTheWay].filter(({ needed, isDone }) => needed && !isDone).length}
        />
      )}
      {now.length > 0 && (
        <>
          <h3>
            {stage(deal.stage)?.name}{' '}
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
      {earlier.length > 0 && (
        <details>
          <summary>{earlier.length} still open from before</summary>
          {shown(earlier)}
        </details>
      )}
    </section>
  );
}

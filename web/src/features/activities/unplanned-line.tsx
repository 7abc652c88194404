import { type SubjectKey } from '@zawn/core';
import { Button } from 'antd';
import { useState, type ReactNode } from 'react';
import { useOpening } from '../../platform/frame/opening';
import { Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { useRing } from '../calls/current-call';
import { lazyPart } from '../../platform/frame/lazy-part';

const PlanForm = lazyPart(
  async () => (await import('./plan-form')).PlanForm,
  () => <Skeleton rows={2} />,
);

/** What can be done about a line beside calling and planning, by its key. */
export interface LineAction {
  key: string;
  label: string;
  /** What it is, for those who do not see the line around it. */
  says: string;
  run: () => void;
}

interface Props {
  /** What it is called where the keyboard is at it: `touch-12`. */
  line: string;
  on: { object: SubjectKey; id: number };
  name: string;
  /** What stands where work says when it is due. */
  when: string;
  detail?: ReactNode;
  /** Whose it is, where that is said. */
  owner?: number | undefined;
  isActive: boolean;
  canCall?: boolean;
  canPlan?: boolean;
  actions?: readonly LineAction[];
  /** What it is dragged by; nothing where it keeps its place. */
  grip?: ReactNode;
}

/** Something to be done that nobody planned: about a person, a deal or a lead; dealt with where it stands. */
export function UnplannedLine({
  line,
  on,
  name,
  when,
  detail,
  owner,
  isActive,
  canCall,
  canPlan,
  actions = [],
  grip,
}: Props) {
  const { open } = useOpening();
  const ring = useRing();
  const { person } = useSession();
  const [isPlanning, setPlanning] = useState(false);
  return (
    <li className={isActive ? 'work work-active' : 'work'} data-line={line}>
      <div className="work-line unplanned-line">
        {grip}
        <span className="work-when">{when}</span>
        <span className="work-what clip">
          <button
            type="button"
            className="link-button"
            data-key="Enter"
            onClick={() => open(on.object, on.id)}
          >
            <b>{name}</b>
          </button>
          <span className="second">{detail}</span>
        </span>
        {owner !== undefined && <span className="second clip work-who">{person(owner)?.name}</span>}
        <span className="work-actions">
          {actions.map(({ key, label, says, run }) => (
            <Button key={key} size="small" type="text" data-key={key} aria-label={says} onClick={run}>
              {label}
            </Button>
          ))}
          {canCall && (
            <Button size="small" data-key="p" aria-label={`Call ${name}`} onClick={() => void ring({ on })}>
              Call
            </Button>
          )}
          {canPlan && (
            <Button
              size="small"
              data-key="n"
              aria-label={`Plan something with ${name}`}
              aria-expanded={isPlanning}
              onClick={() => setPlanning(!isPlanning)}
            >
              Plan
            </Button>
          )}
        </span>
      </div>
      {isPlanning && <PlanForm className="done-form" on={on} close={() => setPlanning(false)} />}
    </li>
  );
}

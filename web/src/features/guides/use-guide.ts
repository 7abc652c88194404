import { useQuery } from '@tanstack/react-query';
import {
  choiceLabel,
  fieldOf,
  heldMoveIn,
  type AnyRecord,
  type Guided,
  type GuideAnswer,
  type HeldMove,
} from '@zawn/core';
import { ApiProblem, call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useOpening } from '../../platform/frame/opening';
import { useSession } from '../../platform/sessions/session';

/** Whether a move was refused because of what a guide still requires. */
export const isHeldUp = (error: unknown): boolean =>
  error instanceof ApiProblem && error.problem.type === '/problems/guide-open';

/** The move of a record that is held up, where its sheet was opened to settle that. */
export function useHeldMove(object: Guided, record: AnyRecord): HeldMove | undefined {
  const { opened } = useOpening();
  return opened?.object === object && opened.id === record.id ? heldMoveIn(opened.part) : undefined;
}

/** What the guide of a record asks; with a held move, also what is asked on the way there. */
export function useGuide(object: Guided, record: AnyRecord, held: HeldMove | undefined, isAsked: boolean) {
  return useQuery({
    queryKey: [RECORDS, 'guide', object, record.id, held?.to],
    queryFn: ({ signal }) =>
      call<GuideAnswer>('GET', `${pathOf(object, record.id)}/guide${held ? `?to=${held.to}` : ''}`, {
        signal,
      }),
    enabled: isAsked,
    placeholderData: (before) => before,
  });
}

/** What a step is called: a stage of deals, a status of leads. */
export function useStepName(object: Guided): (step: unknown) => string | undefined {
  const { catalogue, stage } = useSession();
  if (object === 'deal') return (step) => stage(Number(step))?.name;
  return (step) => choiceLabel(fieldOf(catalogue, 'lead', 'status'), String(step));
}

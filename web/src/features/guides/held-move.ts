import { type Day } from '@zawn/core';
import { ApiProblem } from '../../platform/api/client';

/** A move of a deal that its guide holds up: it is made once what is required has been answered. */
export interface HeldMove {
  stage: number;
  /** Where the close date was to change with it. */
  closeOn?: Day;
}

const BEGINS = 'to';

/** A held move as the part of its deal's sheet that asks for what is required. */
export const partOf = ({ stage, closeOn }: HeldMove): string =>
  [BEGINS, stage, ...(closeOn === undefined ? [] : [closeOn])].join('.');

/** The held move that a part of a sheet stands for; undefined where it stands for something else. */
export function heldMoveIn(part: string | undefined): HeldMove | undefined {
  const [begins, stage, closeOn] = (part ?? '').split('.');
  if (begins !== BEGINS || !/^\d+$/.test(stage ?? '')) return undefined;
  return { stage: Number(stage), ...(closeOn === undefined ? {} : { closeOn }) };
}

/** Whether a move was refused because of what a guide still requires. */
export const isHeldUp = (error: unknown): boolean =>
  error instanceof ApiProblem && error.problem.type === '/problems/guide-open';

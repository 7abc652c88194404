import { type Day } from '../../platform/time';
import { type GuideStep } from './guide';

/** A move that a guide holds up: it is made once what is required has been answered. */
export interface HeldMove {
  /** The step that it is to go on to, as it stands in an address. */
  to: string;
  /** Where the close date of a deal was to change with it. */
  closeOn?: Day;
}

const BEGINS = 'to';
const FORM = /^to\.([A-Za-z0-9_-]+)(?:\.(\d{4}-\d{2}-\d{2}))?$/;

/** A held move as the part of its record's sheet that asks for what is required. */
export const heldMovePart = (to: GuideStep, closeOn?: Day): string =>
  [BEGINS, to, ...(closeOn === undefined ? [] : [closeOn])].join('.');

/** The held move that a part of a sheet stands for; undefined where it stands for something else. */
export function heldMoveIn(part: string | undefined): HeldMove | undefined {
  const [, to, closeOn] = FORM.exec(part ?? '') ?? [];
  return to === undefined ? undefined : { to, ...(closeOn === undefined ? {} : { closeOn }) };
}

import {
  choiceLabel,
  fieldAt,
  fieldOf,
  type Catalogue,
  type Field,
  type FieldValue,
  type RecordOf,
} from '../../kernel/catalogue';

export type GuideItem = Pick<
  RecordOf<'guideItem'>,
  'id' | 'stage' | 'status' | 'position' | 'kind' | 'label' | 'field' | 'activityKind' | 'role' | 'needed'
>;

/** What guides lead along: deals from stage to stage, leads from status to status. */
export type Guided = 'deal' | 'lead';

/** A step on the way: the id of a stage, or the key of a status. */
export type GuideStep = number | string;

/** What an item is asked of. */
export const guidedBy = ({ stage }: Pick<GuideItem, 'stage'>): Guided => (stage === null ? 'lead' : 'deal');

/** The step in which an item is asked. */
export const stepOf = ({ stage, status }: Pick<GuideItem, 'stage' | 'status'>): GuideStep =>
  stage ?? status ?? '';

/** What is known of a record, as far as guides ask about it. */
export interface GuideFacts {
  /** The value at a path: of the record, or behind `account.` of a deal's account. */
  valueOf: (path: string) => FieldValue | undefined;
  /** Types of the activities that were done on it. */
  done: ReadonlySet<string>;
  /** Roles in which somebody is named. */
  roles: ReadonlySet<string>;
  /** The items that were ticked. */
  ticked: ReadonlySet<number>;
}

/** The paths of fields that guides ask for: of a lead its own, of a deal those of its account too. */
const paths: Readonly<Record<Guided, RegExp>> = { deal: /^(account\.)?[^.]+$/, lead: /^[^.]+$/ };

/** The field that an item asks for; undefined where it is not there any more, or asks for none. */
function askedField(item: GuideItem, catalogue: Catalogue): Field | undefined {
  const guided = guidedBy(item);
  return item.field && paths[guided].test(item.field) ? fieldAt(catalogue, guided, item.field) : undefined;
}

/** Whether an item can be asked about: its field is there, or it needs none. What cannot is skipped. */
export function canAsk(item: GuideItem, catalogue: Catalogue): boolean {
  if (item.kind === 'field') return askedField(item, catalogue) !== undefined;
  if (item.kind === 'activity') return !!item.activityKind;
  // Nobody has a role in the decision before there is a deal.
  return item.kind === 'role' ? !!item.role && guidedBy(item) === 'deal' : !!item.label;
}

/** Whether what an item asks for is there. An amount of nothing is no amount. */
export function isAnswered(item: GuideItem, { valueOf, done, roles, ticked }: GuideFacts): boolean {
  switch (item.kind) {
    case 'tick':
      return ticked.has(item.id);
    case 'activity':
      return done.has(String(item.activityKind));
    case 'role':
      return roles.has(String(item.role));
    case 'field': {
      const value = valueOf(String(item.field)) ?? null;
      return value !== null && value !== '' && value !== 0 && !(Array.isArray(value) && value.length === 0);
    }
  }
}

/** What an item asks for, in its own words or else in those of its kind: `Survey date`, `Call done`. */
export function itemInWords(item: GuideItem, catalogue: Catalogue): string {
  if (item.label) return item.label;
  const choice = (key: 'activityKind' | 'role') =>
    choiceLabel(fieldOf(catalogue, 'guideItem', key), String(item[key]));
  switch (item.kind) {
    case 'field':
      return askedField(item, catalogue)?.label ?? String(item.field);
    case 'activity':
      return `${choice('activityKind')} done`;
    case 'role':
      return `Somebody named who ${choice('role').toLowerCase()}`;
    case 'tick':
      return 'Something to tick';
  }
}

/**
 * What holds a move up: required items of the step left and of those passed over that are open. Going back is never
 * held up.
 * @param steps all there are on this way, in their order.
 */
export function holdsUp(
  items: readonly GuideItem[],
  facts: GuideFacts,
  catalogue: Catalogue,
  steps: readonly GuideStep[],
  from: GuideStep,
  to: GuideStep,
): GuideItem[] {
  const [left, reached] = [steps.indexOf(from), steps.indexOf(to)];
  if (left === -1 || reached <= left) return [];
  const passed = new Set(steps.slice(left, reached));
  return guideInOrder(items, steps).filter(
    (item) =>
      item.needed === true && passed.has(stepOf(item)) && canAsk(item, catalogue) && !isAnswered(item, facts),
  );
}

/** How far a record is with what the guides of its step and of those before ask. */
export interface GuideProgress {
  /** Items that are still open. */
  open: number;
  /** The share that is done, in whole percent; null where nothing is asked. */
  done: number | null;
}

/**
 * How far a record is with its guides.
 * @param steps all there are on this way, in their order.
 * @param step where it stands.
 */
export function guideProgress(
  items: readonly GuideItem[],
  facts: GuideFacts,
  catalogue: Catalogue,
  steps: readonly GuideStep[],
  step: GuideStep,
): GuideProgress {
  const passed = new Set(steps.slice(0, steps.indexOf(step) + 1));
  const asked = items.filter((item) => passed.has(stepOf(item)) && canAsk(item, catalogue));
  const open = asked.filter((item) => !isAnswered(item, facts)).length;
  const done = asked.length === 0 ? null : Math.floor((100 * (asked.length - open)) / asked.length);
  return { open, done };
}

/** Items step by step, each in its order. */
export const guideInOrder = (items: readonly GuideItem[], steps: readonly GuideStep[]): GuideItem[] =>
  items.toSorted(
    (a, b) => steps.indexOf(stepOf(a)) - steps.indexOf(stepOf(b)) || a.position - b.position || a.id - b.id,
  );

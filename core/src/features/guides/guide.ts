import {
  choiceLabel,
  fieldAt,
  fieldOf,
  type Catalogue,
  type FieldValue,
  type RecordOf,
} from '../../kernel/catalogue';

export type GuideItem = Pick<
  RecordOf<'guideItem'>,
  'id' | 'stage' | 'position' | 'kind' | 'label' | 'field' | 'activityKind' | 'role' | 'needed'
>;

/** What is known of a deal, as far as guides ask about it. */
export interface GuideFacts {
  /** The value at a path: of the deal, or behind `account.` of its account. */
  valueOf: (path: string) => FieldValue | undefined;
  /** Types of the activities that were done on it. */
  done: ReadonlySet<string>;
  /** Roles in which somebody is named. */
  roles: ReadonlySet<string>;
  /** The items that were ticked. */
  ticked: ReadonlySet<number>;
}

/** Whether an item can be asked about: its field is there, or it needs none. What cannot is skipped. */
export function canAsk(item: GuideItem, catalogue: Catalogue): boolean {
  if (item.kind === 'field') return !!item.field && fieldAt(catalogue, 'deal', item.field) !== undefined;
  if (item.kind === 'activity') return !!item.activityKind;
  return item.kind === 'role' ? !!item.role : !!item.label;
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
      return fieldAt(catalogue, 'deal', String(item.field))?.label ?? String(item.field);
    case 'activity':
      return `${choice('activityKind')} done`;
    case 'role':
      return `Somebody named who ${choice('role').toLowerCase()}`;
    case 'tick':
      return 'Something to tick';
  }
}

/**
 * What holds a move up: required items of the stage left and of those passed over that are open. Going back is never
 * held up.
 * @param stages of the pipeline in their order, by their ids.
 */
export function holdsUp(
  items: readonly GuideItem[],
  facts: GuideFacts,
  catalogue: Catalogue,
  stages: readonly number[],
  from: number,
  to: number,
): GuideItem[] {
  const [left, reached] = [stages.indexOf(from), stages.indexOf(to)];
  if (left === -1 || reached <= left) return [];
  const passed = new Set(stages.slice(left, reached));
  return guideInOrder(items, stages).filter(
    (item) =>
      item.needed === true && passed.has(item.stage) && canAsk(item, catalogue) && !isAnswered(item, facts),
  );
}

/** How far a deal is with what the guides of its stage and of those before ask. */
export interface GuideProgress {
  /** Items that are still open. */
  open: number;
  /** The share that is done, in whole percent; null where nothing is asked. */
  done: number | null;
}

/**
 * How far a deal in a stage is with its guides.
 * @param stages of its pipeline in their order, by their ids.
 */
export function guideProgress(
  items: readonly GuideItem[],
  facts: GuideFacts,
  catalogue: Catalogue,
  stages: readonly number[],
  stage: number,
): GuideProgress {
  const passed = new Set(stages.slice(0, stages.indexOf(stage) + 1));
  const asked = items.filter((item) => passed.has(item.stage) && canAsk(item, catalogue));
  const open = asked.filter((item) => !isAnswered(item, facts)).length;
  const done = asked.length === 0 ? null : Math.floor((100 * (asked.length - open)) / asked.length);
  return { open, done };
}

/** Items stage by stage, each in its order. */
export const guideInOrder = (items: readonly GuideItem[], stages: readonly number[]): GuideItem[] =>
  items.toSorted(
    (a, b) => stages.indexOf(a.stage) - stages.indexOf(b.stage) || a.position - b.position || a.id - b.id,
  );

import { type Choice, type OutcomeCount } from './field';

/** Types of activities in which nobody was called, met or written to. */
export const kindsWithoutTouch: string[] = ['task', 'decision'];

/** What the organisation says about each choice of a list beside its label. */
export type ChoiceDetail = 'kind' | 'days' | 'icon' | 'touch' | 'has' | 'types' | 'counts' | 'next';

/** What an outcome can be counted as, in words. */
export const outcomeCountNames: Readonly<Record<OutcomeCount, string>> = {
  reached: 'Reached them',
  meaningful: 'A real conversation',
  agreed: 'A meeting agreed',
};

/** A list of choices that fields share and the organisation makes its own. */
export interface ChoiceList {
  readonly label: string;
  /** Where it is used, for those who set it up. */
  readonly use: string;
  readonly choices: readonly Choice[];
  readonly details?: readonly ChoiceDetail[];
  /** The kinds a choice can be of, when `details` names them. */
  readonly kinds?: readonly Choice[];
  /** Choices that Zawn itself relies on: they can be renamed and moved, not retired. */
  readonly fixed?: readonly string[];
  /** What goes from choice to choice, with a guide for each of them. */
  readonly guided?: 'lead';
}

/** Turns `['harbour', 'Harbour authority']` pairs into choices, keeping the keys as literal types. */
export function choices<const K extends string>(...pairs: readonly (readonly [K, string])[]) {
  return pairs.map(([key, label]) => ({ key, label }));
}

const leadKinds = choices(['open', 'Open'], ['qualified', 'Qualified'], ['disqualified', 'Disqualified']);

export const choiceLists = {
  source: {
    label: 'Sources',
    use: 'Where leads and deals come from',
    choices: choices(
      ['fair', 'Trade fair'],
      ['referral', 'Referral'],
      ['website', 'Website'],
      ['tender', 'Tender notice'],
      ['campaign', 'Email campaign'],
      ['coldCall', 'Cold call'],
      ['partner', 'Partner'],
      ['existing', 'Existing customer'],
    ),
  },
  leadStatus: {
    label: 'Lead statuses',
    use: 'How far a lead is, each of a kind',
    details: ['kind'],
    guided: 'lead',
    kinds: leadKinds,
    fixed: ['untouched', 'disqualified', 'converted'],
    choices: [
      { key: 'untouched', label: 'Untouched', kind: 'open' },
      { key: 'working', label: 'Working', kind: 'open' },
      { key: 'waiting', label: 'Waiting for them', kind: 'open' },
      { key: 'qualified', label: 'Qualified', kind: 'qualified' },
      { key: 'disqualified', label: 'Disqualified', kind: 'disqualified' },
      { key: 'converted', label: 'Converted', kind: 'qualified' },
    ],
  },
  timeFrame: {
    label: 'Time frames',
    use: 'When a lead wants to buy',
    choices: choices(
      ['month', 'Within a month'],
      ['quarter', 'Within a quarter'],
      ['year', 'Within a year'],
      ['later', 'Later'],
    ),
    fixed: ['month', 'quarter', 'year', 'later'],
  },
  disqualifyReason: {
    label: 'Reasons to disqualify',
    use: 'Why a lead is not pursued',
    choices: choices(
      ['noNeed', 'No need'],
      ['noBudget', 'No budget'],
      ['notOurs', 'Not our trade'],
      ['unreachable', 'Cannot be reached'],
      ['duplicate', 'Known already'],
      ['noPerson', 'Not a real enquiry'],
    ),
  },
  relationship: {
    label: 'Relationships',
    use: 'What contacts and accounts are to us, and after how many days we want to be in touch again',
    details: ['days'],
    choices: [
      { key: 'customer', label: 'Customer', days: 90 },
      { key: 'prospect', label: 'Prospect', days: 45 },
      { key: 'partner', label: 'Partner', days: 120 },
      { key: 'supplier', label: 'Supplier' },
      { key: 'former', label: 'Former customer', days: 365 },
    ],
  },
  industry: {
    label: 'Industries',
    use: 'What accounts do',
    choices: choices(
      ['manufacturing', 'Manufacturing'],
      ['construction', 'Construction'],
      ['retail', 'Retail and wholesale'],
      ['transport', 'Transport and logistics'],
      ['technology', 'Software and technology'],
      ['services', 'Professional services'],
      ['finance', 'Finance and insurance'],
      ['health', 'Health and care'],
      ['education', 'Education and research'],
      ['public', 'Public sector'],
      ['energy', 'Energy and water'],
      ['hospitality', 'Hotels and food'],
      ['agriculture', 'Agriculture'],
      ['other', 'Other'],
    ),
  },
  lossReason: {
    label: 'Reasons for a loss',
    use: 'Why deals are lost. A comment stands beside the reason, never instead of it',
    choices: choices(
      ['price', 'Price'],
      ['competitor', 'Chose another supplier'],
      ['budget', 'Budget withdrawn'],
      ['timing', 'Wrong time'],
      ['fit', 'Does not fit'],
      ['noDecision', 'No decision'],
      ['noContact', 'Contact lost'],
    ),
  },
  competitor: {
    label: 'Competitors',
    use: 'Who else offers to the same customers, and to whom deals are lost',
    choices: [] as readonly Choice[],
  },
  productFamily: {
    label: 'Product families',
    use: 'What kinds of products there are',
    choices: choices(
      ['goods', 'Goods'],
      ['parts', 'Parts and supplies'],
      ['services', 'Services'],
      ['subscription', 'Subscriptions'],
    ),
  },
  decisionRole: {
    label: 'Roles in a decision',
    use: 'What part somebody has in whether a deal is won',
    fixed: ['decides'],
    choices: choices(
      ['decides', 'Decides'],
      ['pays', 'Pays'],
      ['uses', 'Uses'],
      ['influences', 'Influences'],
      ['blocks', 'Blocks'],
      ['supports', 'Supports us'],
    ),
  },
  winReason: {
    label: 'Reasons for a win',
    use: 'Why deals are won, several at once',
    choices: choices(
      ['price', 'Price'],
      ['fit', 'Fits best'],
      ['service', 'Service'],
      ['trust', 'They know us'],
      ['delivery', 'Delivery in time'],
    ),
  },
  activityKind: {
    label: 'Activity types',
    use: 'What people plan and do',
    details: ['icon', 'touch', 'has'],
    fixed: ['task', 'call', 'meeting', 'decision'],
    choices: [
      { key: 'task', label: 'Task', icon: 'tick' },
      { key: 'call', label: 'Call', icon: 'phone', touch: 'out' },
      { key: 'meeting', label: 'Meeting', icon: 'people', touch: 'out', has: ['place', 'attendees'] },
      { key: 'decision', label: 'Decision', icon: 'gavel' },
    ],
  },
  activityOutcome: {
    label: 'Outcomes',
    use: 'How a call or a meeting ended, what that counts as, and the next step it proposes',
    details: ['types', 'counts', 'next'],
    choices: [
      {
        key: 'interested',
        label: 'Interested',
        counts: ['reached', 'meaningful'],
        next: { name: 'Send what was asked for', days: 1 },
      },
      { key: 'agreed', label: 'Agreed next step', counts: ['reached', 'meaningful'] },
      {
        key: 'meetingAgreed',
        label: 'Meeting agreed',
        types: ['call'],
        counts: ['reached', 'meaningful', 'agreed'],
        next: { name: 'Prepare the meeting', days: 1 },
      },
      {
        key: 'callBack',
        label: 'Call back',
        types: ['call'],
        counts: ['reached'],
        next: { name: 'Call back', days: 1 },
      },
      { key: 'noAnswer', label: 'No answer', types: ['call'], next: { name: 'Try again', days: 1 } },
      { key: 'message', label: 'Left a message', types: ['call'], next: { name: 'Call again', days: 3 } },
      { key: 'notInterested', label: 'Not interested', counts: ['reached', 'meaningful'] },
      { key: 'wrongPerson', label: 'Wrong person', types: ['call'], counts: ['reached'] },
    ],
  },
} as const satisfies Record<string, ChoiceList>;

export type ChoiceListKey = keyof typeof choiceLists;

export const choiceListKeys = Object.keys(choiceLists) as ChoiceListKey[];

/** What Zawn brings of a list. */
export function choiceListOf(key: ChoiceListKey): ChoiceList {
  return choiceLists[key];
}

/** The choices that can be chosen now; those retired stay known by name. */
export function offered(all: readonly Choice[] | undefined): readonly Choice[] {
  return (all ?? []).filter(({ retired }) => !retired);
}

/**
 * Choices kept as JSON, as `[key, label]` pairs or with what else is said about them; none when it holds
 * something else.
 */
export function choicesIn(text: string | null): Choice[] {
  try {
    const kept: unknown = JSON.parse(text ?? '[]');
    return Array.isArray(kept) ? kept.flatMap((each) => choiceIn(each) ?? []) : [];
  } catch {
    return [];
  }
}

function choiceIn(kept: unknown): Choice | undefined {
  if (Array.isArray(kept))
    return kept.length === 2 ? { key: String(kept[0]), label: String(kept[1]) } : undefined;
  const { key, label } = (kept ?? {}) as Partial<Choice>;
  return typeof key === 'string' && typeof label === 'string' ? (kept as Choice) : undefined;
}

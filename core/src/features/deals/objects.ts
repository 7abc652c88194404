import { choiceLists, choices } from '../../kernel/catalogue/choice-lists';
import {
  chosenFrom,
  owner,
  externalId,
  description,
  source,
  tags,
  object,
  position,
} from '../../kernel/catalogue/shared-fields';

const isOpen = { field: 'outcome', isChoice: 'open' } as const;
/** A close date put off so often says more about the deal than about the date. */
export const OFTEN_PUSHED = 3;

const isLongerThanUsual = { daysSince: 'stageSince', exceed: 'stage.usualDays' } as const;

/** What winning and losing set; a file can bring in deals that were closed elsewhere. */
const byClosing = { set: 'feature', imported: true } as const;

/** Amounts that stand beside a deal's value. */
const besideValue = {
  type: 'money',
  currency: 'currency',
  convertedOn: 'closedOn',
  min: 0,
  set: 'feature',
  seenWith: 'value',
} as const;

/** An amount of a line: in the currency of its deal, and worth what that was on the day it closed. */
const inDealCurrency = {
  type: 'money',
  currency: 'deal.currency',
  convertedOn: 'deal.closedOn',
  min: 0,
  seenWith: 'value',
} as const;

export const deal = object({
  label: 'Deal',
  plural: 'Deals',
  path: 'deals',
  category: 'work',
  dayEnds: [
    'pipeline',
    'stage',
    'owner',
    'value',
    'currency',
    'probability',
    'closeOn',
    'closedOn',
    'outcome',
  ],
  summed: [
    'stage',
    'owner',
    'outcome',
    'pipeline',
    'source',
    'lossReason',
    'closeOn',
    'closedOn',
    'createdAt',
    'currency',
    'value',
    'probability',
    'account',
    'updatedAt',
  ],
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true },
    number: { label: 'Number', type: 'text', set: 'feature' },
    account: { label: 'Account', type: 'link', to: 'account' },
    contact: { label: 'Contact', type: 'link', to: 'contact' },
    pipeline: { label: 'Pipeline', type: 'link', to: 'pipeline', required: true, set: 'once' },
    stage: { label: 'Stage', type: 'link', to: 'stage', required: true },
    value: {
      label: 'Value',
      type: 'money',
      currency: 'currency',
      convertedOn: 'closedOn',
      min: 0,
      required: true,
      synonyms: ['amount', 'price'],
    },
    valueFrom: {
      label: 'Value from',
      type: 'choice',
      choices: choices(['typed', 'Typed in'], ['lines', 'Its lines']),
      preset: 'typed',
      seenWith: 'value',
      notImported: true,
    },
    /** What was typed in, as long as something else counts. */
    typedValue: { label: 'Value typed in', ...besideValue, isSilent: true },
    /** What its lines come to, whether or not that counts; empty without lines. */
    linesValue: { label: 'Value by lines', ...besideValue, isSilent: true },
    currency: { label: 'Currency', type: 'currency', required: true },
    probability: { label: 'Own probability', type: 'percent', min: 0, max: 100 },
    closeOn: {
      label: 'Close date',
      type: 'date',
      required: true,
      synonyms: ['expected close', 'closing date'],
    },
    source,
    competitors: {
      label: 'Competitors',
      type: 'choices',
      list: 'competitor',
      choices: choiceLists.competitor.choices,
    },
    description,
    tags,
    externalId,
    owner,
    outcome: {
      label: 'Outcome',
      type: 'choice',
      required: true,
      ...byClosing,
      choices: choices(['open', 'Open'], ['won', 'Won'], ['lost', 'Lost']),
    },
    closedOn: { label: 'Closed on', type: 'date', ...byClosing, isSilent: true },
    wonReasons: {
      label: 'Won because',
      type: 'choices',
      list: 'winReason',
      choices: choiceLists.winReason.choices,
      ...byClosing,
    },
    wonBecause: { label: 'Comment on the win', type: 'text', ...byClosing },
    lossReason: { label: 'Lost because', ...chosenFrom('lossReason'), ...byClosing },
    lossComment: { label: 'Comment on the loss', type: 'longText', maxLength: 2000, ...byClosing },
    lostTo: { label: 'Lost to', ...chosenFrom('competitor'), ...byClosing },
    tryAgainOn: { label: 'Try again on', type: 'date', set: 'feature' },
    /** How often an open deal's close date was put off. */
    timesPushed: { label: 'Times pushed', type: 'number', min: 0, set: 'feature', isSilent: true },
    timesReopened: { label: 'Times reopened', type: 'number', min: 0, set: 'feature', isSilent: true },
    renewalOf: { label: 'Renewal of', type: 'link', to: 'deal', set: 'feature' },
    lead: { label: 'From lead', type: 'link', to: 'lead', set: 'feature' },
    stageSince: { label: 'In stage since', type: 'dateTime', required: true, set: 'feature', isSilent: true },
    weighted: {
      label: 'Weighted value',
      type: 'money',
      currency: 'currency',
      convertedOn: 'closedOn',
      set: 'computed',
      formula: { percent: ['probability', 'stage.probability'], of: 'value' },
    },
    lastTouchAt: { label: 'Last touch', type: 'dateTime', set: 'feature', isUnlogged: true },
    /** Whether somebody is named who decides. */
    deciderNamed: { label: 'Named who decides', type: 'yesNo', set: 'feature', isUnlogged: true },
    /** Of what the guides of its stage and those before ask of an open deal. */
    guideOpen: { label: 'Guide items open', type: 'number', min: 0, set: 'feature', isUnlogged: true },
    guideDone: { label: 'Guide done', type: 'percent', min: 0, max: 100, set: 'feature', isUnlogged: true },
    age: {
      label: 'Age in days',
      type: 'number',
      set: 'computed',
      formula: { daysSince: 'createdAt', until: 'closedOn' },
    },
    nextStepOn: {
      label: 'Next step on',
      type: 'date',
      set: 'computed',
      formula: { earliest: 'dueOn', of: 'activity', by: 'deal', whileEmpty: 'doneAt' },
    },
    daysInStage: {
      label: 'Days in stage',
      type: 'number',
      set: 'computed',
      formula: { daysSince: 'stageSince' },
    },
    stale: {
      label: 'Longer in stage than usual',
      type: 'yesNo',
      set: 'computed',
      formula: { every: [isOpen, isLongerThanUsual] },
    },
    /** What `attentionOf` finds anything about beside that nobody is named who decides. */
    needsAttention: {
      label: 'Needs attention',
      type: 'yesNo',
      set: 'computed',
      formula: {
        every: [
          isOpen,
          {
            some: [
              { isPast: 'closeOn' },
              { isPast: 'nextStepOn', orEmpty: true },
              isLongerThanUsual,
              { field: 'timesPushed', isAtLeast: OFTEN_PUSHED },
            ],
          },
        ],
      },
    },
  },
});

/** What a stage's history tells is seen by who sees the stage. */
const byStage = { set: 'feature', seenWith: 'stage' } as const;

/** A time that a deal was in a stage, from its stage history; nobody writes it but what moves the deal. */
export const stageStay = object({
  label: 'Stay in a stage',
  plural: 'Stays in stages',
  path: 'stage-stays',
  category: 'log',
  goesWith: 'subject',
  nameField: 'stage',
  fields: {
    deal: { label: 'Deal', type: 'link', to: 'deal', required: true, set: 'feature' },
    stage: { label: 'Stage', type: 'link', to: 'stage', required: true, ...byStage },
    enteredAt: { label: 'Entered', type: 'dateTime', required: true, ...byStage },
    leftAt: { label: 'Left', type: 'dateTime', ...byStage },
    person: { label: 'Moved by', type: 'link', to: 'person', set: 'feature' },
    /** How it came there from the stage before, where it came from one. */
    moved: {
      label: 'Came there',
      type: 'choice',
      required: true,
      ...byStage,
      choices: choices(
        ['begun', 'As its first stage'],
        ['on', 'By going on a stage'],
        ['skipped', 'By skipping a stage'],
        ['back', 'By going back'],
        ['again', 'Once more'],
      ),
    },
    /** By it a deal is counted once for each stage. */
    isLast: { label: 'Last stay there', type: 'yesNo', required: true, ...byStage },
    /** As conversion counts it: a later stage entered or the deal won, still there, or neither; alike for all stays there. */
    became: {
      label: 'What became of it',
      type: 'choice',
      required: true,
      set: 'feature',
      seenWith: 'outcome',
      choices: choices(
        ['wentOn', 'Went on or was won'],
        ['still', 'Still there'],
        ['ended', 'Went no further'],
      ),
    },
    days: {
      label: 'Days stayed',
      type: 'number',
      set: 'computed',
      seenWith: 'stage',
      formula: { daysSince: 'enteredAt', until: 'leftAt' },
    },
    /** Of all stays of the deal in this stage, told at the last one once that is over. */
    daysInAll: { label: 'Days in all', type: 'number', ...byStage },
  },
});

/** Somebody who has a part in what becomes of a deal: which one, and how they stand to us. */
export const dealContact = object({
  label: 'Deal contact',
  plural: 'Deal contacts',
  path: 'deal-contacts',
  category: 'work',
  goesWith: 'subject',
  nameField: 'role',
  fields: {
    deal: { label: 'Deal', type: 'link', to: 'deal', required: true, set: 'once' },
    contact: { label: 'Contact', type: 'link', to: 'contact', required: true, set: 'once' },
    role: { label: 'Role in the decision', ...chosenFrom('decisionRole'), required: true },
    stance: {
      label: 'Stands to us',
      type: 'choice',
      choices: choices(
        ['for', 'For us'],
        ['neutral', 'Neutral'],
        ['against', 'Against us'],
        ['unknown', 'Not known'],
      ),
    },
  },
});

/** A part of what a deal is worth: a product, or something described in words, so many times at a price. */
export const dealLine = object({
  label: 'Line',
  plural: 'Lines',
  path: 'deal-lines',
  category: 'work',
  ownedBy: { link: 'deal', as: 'lines' },
  nameField: 'name',
  fields: {
    deal: { label: 'Deal', type: 'link', to: 'deal', required: true, set: 'feature' },
    position,
    product: { label: 'Product', type: 'link', to: 'product' },
    /** That of its product, where nothing else is said. */
    name: { label: 'What', type: 'text' },
    quantity: {
      label: 'Quantity',
      type: 'number',
      required: true,
      fraction: true,
      digits: 3,
      min: 0.001,
      max: 1_000_000_000,
    },
    unitPrice: { label: 'Unit price', ...inDealCurrency, required: true },
    sum: { label: 'Sum', ...inDealCurrency, set: 'feature' },
  },
});

export const pipeline = object({
  label: 'Pipeline',
  plural: 'Pipelines',
  path: 'pipelines',
  category: 'setup',
  setUpBy: 'setUpPipelines',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true },
    position: { label: 'Order', type: 'number', required: true, min: 0 },
    /** Where deals won in it are renewed, and how many months after they were won. */
    renewsIn: { label: 'Renewed in', type: 'link', to: 'pipeline' },
    renewsAfter: { label: 'Renewed after months', type: 'number', min: 1, max: 120 },
    retired: { label: 'Retired', type: 'yesNo' },
  },
});

/** A team that works with a pipeline. One without any is everybody's. */
export const pipelineTeam = object({
  label: 'Team of a pipeline',
  plural: 'Teams of a pipeline',
  path: 'pipeline-teams',
  category: 'setup',
  setUpBy: 'setUpPipelines',
  nameField: 'pipeline',
  fields: {
    pipeline: { label: 'Pipeline', type: 'link', to: 'pipeline', required: true, set: 'once' },
    team: { label: 'Team', type: 'link', to: 'team', required: true, set: 'once' },
    proposed: { label: 'Proposed first', type: 'yesNo' },
  },
});

export const stage = object({
  label: 'Stage',
  plural: 'Stages',
  path: 'stages',
  category: 'setup',
  setUpBy: 'setUpPipelines',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true },
    pipeline: { label: 'Pipeline', type: 'link', to: 'pipeline', required: true, set: 'once' },
    position: { label: 'Order', type: 'number', required: true, min: 0 },
    probability: { label: 'Probability', type: 'percent', required: true, min: 0, max: 100 },
    usualDays: { label: 'Usual days', type: 'number', required: true, min: 1, max: 3650 },
    retired: { label: 'Retired', type: 'yesNo' },
  },
});

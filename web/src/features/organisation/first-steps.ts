import { number } from '../../platform/frame/format';

/** What is there by now, by which the first steps are known to be done. */
export interface Beginnings {
  people: number;
  /** The stages of the first pipeline, and whether anybody made them the organisation's own. */
  stages: readonly string[];
  hasOwnStages: boolean;
  targets: number;
  /** Leads, contacts and accounts. */
  records: number;
  forms: number;
}

/** A step of the first hour: where it is done, and whether it was, seen from the data. */
export interface FirstStep {
  key: string;
  label: string;
  /** What stands there, or what it is good for. */
  about: string;
  path: string;
  isDone: boolean;
}

const sofar = (count: number, one: string, many: string) =>
  `${number(count)} ${count === 1 ? one : many} so far`;

/**
 * The steps by which an organisation comes to work, in their order.
 * @param money the currency and calendar as they were chosen, in words.
 */
export function firstSteps(
  { people, stages, hasOwnStages, targets, records, forms }: Beginnings,
  money: string,
): FirstStep[] {
  return [
    {
      key: 'money',
      label: 'Money and calendar',
      about: money,
      path: '/setup/organisation',
      // Chosen when the organisation was created.
      isDone: true,
    },
    {
      key: 'people',
      label: 'Invite your colleagues',
      about: people > 1 ? `${people} people` : 'Each gets a link and chooses a password.',
      path: '/setup/people',
      isDone: people > 1,
    },
    {
      key: 'pipeline',
      label: 'Make the pipeline yours',
      about: stages.join(', '),
      path: '/setup/pipelines',
      isDone: hasOwnStages,
    },
    {
      key: 'import',
      label: 'Bring in what you have',
      about:
        records > 0
          ? sofar(records, 'record', 'records')
          : 'Lists from spreadsheets, address books and mail.',
      path: '/imports',
      isDone: records > 0,
    },
    {
      key: 'targets',
      label: 'Set targets',
      about: targets > 0 ? sofar(targets, 'target', 'targets') : 'What each person is to win, by quarter.',
      path: '/setup/targets',
      isDone: targets > 0,
    },
    {
      key: 'form',
      label: 'Put a form on your website',
      about: forms > 0 ? sofar(forms, 'form', 'forms') : 'What is filled in becomes a lead, with an owner.',
      path: '/forms',
      isDone: forms > 0,
    },
  ];
}

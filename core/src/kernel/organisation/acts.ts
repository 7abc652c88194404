import { type ActType } from '../policy/act';

export const organisationActs = {
  managePeople: { label: 'Look after people, teams and roles', isSetup: true },
  setUpMoney: { label: 'Set up money, calendar and the organisation', isSetup: true },
} as const satisfies Record<string, ActType>;

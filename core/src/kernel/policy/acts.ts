import { assignmentActs } from '../../features/assignment/acts';
import { dealActs } from '../../features/deals/acts';
import { forecastActs } from '../../features/forecast/acts';
import { formActs } from '../../features/forms/acts';
import { leadActs } from '../../features/leads/acts';
import { matchingActs } from '../../features/matching/acts';
import { productActs } from '../../features/products/acts';
import { safeKeepingActs } from '../../features/safe-keeping/acts';
import { setupActs } from '../../features/setup/acts';
import { upkeepActs } from '../../features/upkeep/acts';
import { organisationActs } from '../organisation/acts';
import { type ActType } from './act';

/** Everything that can be permitted beside working with records: the one list that a feature's own join. */
const described = {
  ...dealActs,
  ...leadActs,
  ...matchingActs,
  ...forecastActs,
  ...assignmentActs,
  ...organisationActs,
  ...setupActs,
  ...productActs,
  ...upkeepActs,
  ...formActs,
  ...safeKeepingActs,
} as const;

export type Act = keyof typeof described;

export const acts = Object.keys(described) as Act[];

export const actType = (act: Act): ActType => described[act];

/** Those by which Zawn is set up. */
export const actsOfSetup: readonly Act[] = acts.filter((act) => actType(act).isSetup);

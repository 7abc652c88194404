import { dealDerivation } from './deals/deal-derivation';
import { leadDerivation } from './leads/lead-derivation';
import { accountDerivation, contactDerivation } from './people/touch-derivations';
import { type Derivation } from '../kernel/records/derivation';

/** What features derive. */
export const derivations: readonly Derivation[] = [
  leadDerivation,
  contactDerivation,
  accountDerivation,
  dealDerivation,
];

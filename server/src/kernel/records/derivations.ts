import { leadDerivation } from '../../features/leads/lead-derivation';
import { accountDerivation, contactDerivation } from '../../features/people/touch-derivations';
import { type Derivation } from './derivation';

/** What features derive. */
export const derivations: readonly Derivation[] = [leadDerivation, contactDerivation, accountDerivation];

import { useSession } from '../../platform/sessions/session';
import { useBrought } from './feature';

/** What the person may add from anywhere. */
export function useAdditions() {
  const { policy } = useSession();
  return useBrought('additions').filter(({ object }) => policy.allows(object, 'add'));
}

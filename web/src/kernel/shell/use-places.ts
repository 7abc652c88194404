import { useSession } from '../../platform/sessions/session';
import { useBrought } from './feature';
import { placesFor, type Place } from './places';

/** The places the person signed in goes to, in the order of the rail. */
export function usePlaces(): Place[] {
  const { policy } = useSession();
  return placesFor(useBrought('places'), policy);
}

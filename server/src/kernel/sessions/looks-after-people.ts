import { May } from '../../platform/sessions/may';

/** Opens a route, or all of a controller, only to those who look after people. */
export const LooksAfterPeople = () =>
  May(
    'managePeople',
    'Your role does not let you look after people. Ask whoever sets up Zawn in your organisation.',
  );

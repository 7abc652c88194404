import { May } from '../../platform/sessions/may';

/** Opens a route, or all of a controller, only to those who look after people. */
export const LooksAfterPeople = () =>
  May('setUp', 'You may not look after people. Ask whoever sets up Zawn in your organisation.');

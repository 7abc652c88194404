import { type Choice } from '@zawn/core';

/** The roles that somebody can be given; what they have already is among them though it was retired. */
export const roleOptions = (roles: readonly Choice[], now?: string) =>
  roles
    .filter(({ key, retired }) => !retired || key === now)
    .map(({ key, label }) => ({ value: key, label }));

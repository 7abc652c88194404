import { roleChoices } from '@zawn/core';

/** The roles that somebody can be given. */
export const roles = roleChoices.map(({ key, label }) => ({ value: key, label }));

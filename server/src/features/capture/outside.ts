import { type Actor } from '@zawn/core';

/** On whose behalf is written what comes from outside: Zawn's own, which sees everything and is nobody. */
export const outside: Actor = { personId: 0, role: 'operations', teamPeople: [], teams: [] };

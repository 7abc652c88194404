import { type Actor } from '@zawn/core';

/** Whoever writes what nobody does by hand, such as a lead that comes through a form: it sees everything and is no person. */
export const systemActor: Actor = { personId: 0, role: 'operations', teamPeople: [], teams: [] };

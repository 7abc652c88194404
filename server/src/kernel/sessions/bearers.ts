import { type Actor, type TokenScope } from '@zawn/core';

/** What a request with a token may do: its person, and the scope of the token. */
export interface Bearer {
  actor: Actor;
  scope: TokenScope;
}

/** Knows who stands behind the secret that a program brings along. */
export abstract class Bearers {
  /** undefined when the secret is none, was ended, or its person is no longer here. */
  abstract find(secret: string): Promise<Bearer | undefined>;
}

import { type TokenScope } from '../../kernel/policy';

/** A personal token as it is listed: its secret is not kept. */
export interface ApiToken {
  id: number;
  name: string;
  scope: TokenScope;
  /** The last letters of the secret, to tell tokens apart. */
  ending: string;
  createdAt: string;
  lastUsedAt: string | null;
  revokedAt: string | null;
}

/** A token just made, with the secret that is shown this once. */
export type NewApiToken = ApiToken & { secret: string };

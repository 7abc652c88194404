/** What a personal token is allowed to do. */
export type TokenScope = 'leads' | 'read' | 'all';

/** What a personal token can be allowed to do, the least first. */
export const tokenScopes: readonly { key: TokenScope; label: string }[] = [
  { key: 'leads', label: 'Add leads, and nothing else' },
  { key: 'read', label: 'Read what you see' },
  { key: 'all', label: 'Everything you may do' },
];

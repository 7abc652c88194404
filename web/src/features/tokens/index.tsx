import { type Feature } from '../../kernel/shell/feature';

/** Tokens with which programs act for their person. */
export const tokens: Feature = {
  pages: [{ path: 'tokens', lazy: () => import('./tokens-page') }],
};

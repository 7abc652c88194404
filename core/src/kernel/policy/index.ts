export * from './policy';
export * from './roles';
export * from './token-scopes';

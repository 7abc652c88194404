export * from './kinds';
export * from './readiness';

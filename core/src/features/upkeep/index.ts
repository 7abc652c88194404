export * from './kinds';
export * from './readiness';
export * from './counts';

export type * from './api';
export * from './pack';

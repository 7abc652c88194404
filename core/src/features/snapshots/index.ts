export type * from './api';
export * from './compare';
export * from './frozen';
export * from './rhythm';

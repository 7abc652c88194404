export type * from './api';
export * from './compare';
export * from './frozen';
export * from './frozen-answer';
export { frozenParts } from './frozen-parts';
export * from './rhythm';

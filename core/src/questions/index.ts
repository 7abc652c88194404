export * from './question';
export * from './context';
export * from './runnable';
export { compareKeys, fold, isEmptyValue, orderFieldOf, orderKeys, type OrderOf } from './order';
export * from './in-memory';
export * from './in-words';
export * from './drill';
export * from './complete';
export * from './suggest-dates';

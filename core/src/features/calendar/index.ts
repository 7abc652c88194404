export * from './number-pattern';

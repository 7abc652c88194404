export * from './formatted';

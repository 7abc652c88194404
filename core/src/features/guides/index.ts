export * from './guide';

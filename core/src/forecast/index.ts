export * from './waterline';

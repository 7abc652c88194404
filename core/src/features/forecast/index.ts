export * from './waterline';
export * from './waterline-questions';

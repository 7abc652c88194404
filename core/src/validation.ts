export * from './kernel/validation';

export * from './kernel/validation';
export * from './features/forms/form-schema';

export * from './features/imports';

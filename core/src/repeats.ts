export * from './features/activities/repeats';

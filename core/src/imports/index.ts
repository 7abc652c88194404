export * from './match-columns';
export * from './plan-import';
export * from './read-cell';
export * from './read-table';
export * from './refused-file';

export * from './attention';
export * from './deal-grid';
export * from './stage-history';
export * from './win-rate';
export * from './in-lanes';

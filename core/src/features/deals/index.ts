export * from './attention';
export * from './deal-grid';
export * from './stage-history';
export * from './stage-measures';
export * from './win-rate';
export * from './in-lanes';
export * from './climb';
export * from './decision';

export * from './features/imports';
export * from './features/rates/read-rates';

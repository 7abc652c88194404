export * from './features/imports';
export * from './features/rates/read-rates';
export * from './features/calendar/read-holidays';

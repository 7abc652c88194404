export * from './kernel/validation';
export * from './features/forms/form-schema';
export * from './features/reports/report-schema';
export * from './features/dashboards/dashboard-schema';
export * from './features/packs/pack-schema';

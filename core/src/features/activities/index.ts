export * from './day';
export * from './reminder';

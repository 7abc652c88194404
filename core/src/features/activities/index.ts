export * from './day';
export * from './outcomes';
export * from './reminder';

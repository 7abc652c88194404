export * from './activity-board';
export * from './day';
export * from './outcomes';
export * from './reminder';

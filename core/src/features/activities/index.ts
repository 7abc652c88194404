export * from './activity-board';
export * from './day';
export * from './digest';
export * from './outcomes';
export * from './read-planned';
export * from './reminder';

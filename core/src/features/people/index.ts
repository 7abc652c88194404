export * from './hierarchy';
export * from './person-name';
export * from './touch';
export * from './open-work';

export * from './hierarchy';
export * from './person-name';
export * from './touch';

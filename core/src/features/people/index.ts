export * from './hierarchy';
export * from './touch';

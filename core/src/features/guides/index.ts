export * from './guide';
export * from './held-move';

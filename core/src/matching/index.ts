export * from './candidates';
export * from './similarity';

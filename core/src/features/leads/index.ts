export * from './conversion';
export * from './qualification';
export * from './score';
export * from './steps';

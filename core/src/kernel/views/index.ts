export * from './design';
export * from './ready-made';
export * from './replacement';

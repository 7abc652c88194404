export * from './design';
export * from './ready-made';

export * from './conversion';

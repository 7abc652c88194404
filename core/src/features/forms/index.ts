export * from './form-design';
export * from './form-page';
export * from './html';
export * from './read-submission';

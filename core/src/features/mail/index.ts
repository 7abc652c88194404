export * from './message';
export * from './new-text';
export * from './sender';
export * from './contact-suggestions';
export * from './signature';

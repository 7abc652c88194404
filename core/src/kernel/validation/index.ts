export * from './choices-schema';
export * from './design-schema';
export * from './field-schema';
export * from './question-schema';
export * from './record-schema';
export * from '../../platform/normalise';
export * from './role-schema';
export * from './valid-text';

/**
 * Everything that is said differently to SQLite than to another engine. A second engine gets a folder of the same shape
 * beside this one.
 */
export * from './connection';
export * from './expressions';
export * from './full-text';
export * from './indexes';
export * from './rows';
export * from './text-order';

export * as dialect from './sqlite';

export * from './answer';
export { isFormulaFault, readFormula } from './formula';
export * from './ready-made';
export * from './in-words';
export * from './movement';
export * from './records-behind';
export * from './report';
export { periodsWithin } from './periods-within';

export * from './answer';
export { figuresNamed, isFormulaFault, readFormula } from './formula';
export * from './ready-made';
export * from './in-words';
export * from './movement';
export * from './ratio';
export * from './records-behind';
export * from './report';
export { periodsWithin } from './periods-within';

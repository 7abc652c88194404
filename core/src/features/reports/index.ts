export * from './answer';
export { isFormulaFault, readFormula } from './formula';
export * from './ready-made';
export * from './in-words';
export * from './report';

export { normalisePhone } from './platform/normalise';
export * from './platform/normalise/phone';

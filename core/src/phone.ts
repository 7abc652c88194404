export * from './platform/normalise/phone';

export * from './progress-report';

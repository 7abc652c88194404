export * from './arranged';
export * from './choice';
export * from './dashboard';
export * from './ready-made';
export * from './shown-report';
export * from './uses';
export * from './words';

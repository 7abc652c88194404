export * from './features/mail';

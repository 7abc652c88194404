import { keepSafe } from './steps.mjs';

keepSafe('backup');

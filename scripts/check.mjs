import { keepSafe } from './steps.mjs';

keepSafe('check');

import { keepSafe } from './steps.mjs';

keepSafe('restore');

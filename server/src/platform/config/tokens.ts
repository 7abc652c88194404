/** The configuration Zawn was started with. */
export const CONFIG = Symbol('config');

import { type customisable } from '@zawn/core';

/** The objects that can be added from anywhere. */
export type Addable = (typeof customisable)[number]['key'];

import { isCustomKey, type FieldValue } from '@zawn/core';
import { type Values } from './meaning';

/** Whether two values are the same, members of a set in their order. */
export function isSame(a: FieldValue | undefined, b: FieldValue): boolean {
  return Array.isArray(a) || Array.isArray(b) ? JSON.stringify(a) === JSON.stringify(b) : a === b;
}

/** Values as the columns keep them, sets as JSON; the custom fields apart, which share one column. */
export function columnsOf(values: Values): { columns: Record<string, unknown>; custom: Values | undefined } {
  const columns: Record<string, unknown> = {};
  const custom: Values = {};
  for (const [key, value] of Object.entries(values)) {
    if (isCustomKey(key)) custom[key] = value;
    else columns[key] = Array.isArray(value) ? JSON.stringify(value) : value;
  }
  return { columns, custom: Object.keys(custom).length > 0 ? custom : undefined };
}

/** Only the values that are there. */
export function withoutEmpty(values: Values): Values {
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null));
}

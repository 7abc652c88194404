import { createContext, use, useCallback, useMemo, useState, type ReactNode } from 'react';
import { type FieldValue } from '@zawn/core';

import { type Addable } from './addable';
import { lazyPart } from '../../platform/frame/lazy-part';

export { type Addable };

interface Adding {
  object: Addable;
  values: Record<string, FieldValue>;
}

const AddContext = createContext<(object: Addable, values?: Record<string, FieldValue>) => void>(
  () => undefined,
);
const QuickAdd = lazyPart(async () => (await import('../records/quick-add')).default);

/** Opens the short form for a new record, with values filled in. */
export const useAdd = () => use(AddContext);

export function AddProvider({ children }: { children: ReactNode }) {
  const [adding, setAdding] = useState<Adding>();
  const add = useCallback((object: Addable, values = {}) => setAdding({ object, values }), []);
  const close = useCallback(() => setAdding(undefined), []);
  const value = useMemo(() => add, [add]);
  return (
    <AddContext value={value}>
      {children}
      {adding && <QuickAdd key={adding.object} {...adding} close={close} />}
    </AddContext>
  );
}

import { createContext, lazy, Suspense, use, useCallback, useMemo, useState, type ReactNode } from 'react';
import { type FieldValue } from '@zawn/core';

import { type Addable } from './addable';

export { type Addable };

interface Adding {
  object: Addable;
  values: Record<string, FieldValue>;
}

const AddContext = createContext<(object: Addable, values?: Record<string, FieldValue>) => void>(
  () => undefined,
);
const QuickAdd = lazy(() => import('../records/quick-add'));

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
      <Suspense>{adding && <QuickAdd key={adding.object} {...adding} close={close} />}</Suspense>
    </AddContext>
  );
}

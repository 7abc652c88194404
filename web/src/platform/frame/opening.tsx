import { isSubject, type SubjectKey } from '@zawn/core';
import { createContext, use, useCallback, useMemo, useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';

export interface Opened {
  object: SubjectKey;
  id: number;
}

/** The records of the list one came from, in its order: the sheet walks through them. */
interface Result {
  object: SubjectKey;
  /** How many there are. */
  count: number;
  /** The place of a record among them, from 0; undefined where it is not known. */
  placeOf: (id: number) => number | undefined;
  /** The record at a place, fetched where it has not been yet. */
  idAt: (place: number) => number | undefined | Promise<number | undefined>;
}

const ResultContext = createContext<{ result?: Result; setResult: (result: Result | undefined) => void }>({
  setResult: () => undefined,
});

export function ResultProvider({ children }: { children: ReactNode }) {
  const [result, setResult] = useState<Result>();
  const value = useMemo(() => ({ result, setResult }), [result]);
  return <ResultContext value={value}>{children}</ResultContext>;
}

export const useResult = () => use(ResultContext);

const PARAMETER = 'open';

/** The sheet's record as the address says it: `?open=deal-12`. */
function openedIn(text: string | null): Opened | undefined {
  const [object, id] = (text ?? '').split('-');
  return isSubject(object) && /^\d+$/.test(id ?? '') ? { object, id: Number(id) } : undefined;
}

/** The record whose sheet is open beside the page, and the ways to open, change and close it. */
export function useOpening() {
  const [parameters, setParameters] = useSearchParams();
  const text = parameters.get(PARAMETER);
  const opened = useMemo(() => openedIn(text), [text]);
  const open = useCallback(
    (object: SubjectKey, id: number, { replace = false } = {}) => {
      setParameters(
        (before) => {
          before.set(PARAMETER, `${object}-${id}`);
          return before;
        },
        { replace },
      );
    },
    [setParameters],
  );
  const close = useCallback(() => {
    setParameters((before) => {
      before.delete(PARAMETER);
      return before;
    });
  }, [setParameters]);
  return { opened, open, close };
}

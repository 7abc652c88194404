import { isSubject, type SubjectKey } from '@zawn/core';
import { createContext, use, useCallback, useMemo, useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';

export interface Opened {
  object: SubjectKey;
  id: number;
  /** What of it is wanted at once, such as closing a deal. */
  part?: string;
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
const PART = 'part';

/** The sheet's record as the address says it: `?open=deal-12`. */
function openedIn(text: string | null, part: string | null): Opened | undefined {
  const [object, id] = (text ?? '').split('-');
  if (!isSubject(object) || !/^\d+$/.test(id ?? '')) return undefined;
  return { object, id: Number(id), ...(part === null ? {} : { part }) };
}

/** The record whose sheet is open beside the page, and the ways to open, change and close it. */
export function useOpening() {
  const [parameters, setParameters] = useSearchParams();
  const text = parameters.get(PARAMETER);
  const wanted = parameters.get(PART);
  const opened = useMemo(() => openedIn(text, wanted), [text, wanted]);
  const open = useCallback(
    (
      object: SubjectKey,
      id: number,
      { replace = false, part }: { replace?: boolean; part?: string } = {},
    ) => {
      setParameters(
        (before) => {
          before.set(PARAMETER, `${object}-${id}`);
          if (part === undefined) before.delete(PART);
          else before.set(PART, part);
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
      before.delete(PART);
      return before;
    });
  }, [setParameters]);
  return { opened, open, close };
}

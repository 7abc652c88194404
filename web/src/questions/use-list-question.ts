import { allOf, type Condition, type ObjectKey, type Question, type Sort } from '@zawn/core';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { questionIn } from './list-address';

/** A ready-made part of a list: those to work, those that are won. */
export interface Preset {
  key: string;
  label: string;
  where?: Condition;
}

/**
 * The question a list shows, as the address says it: a ready-made part, or the question behind a figure; its
 * order on top. A link to the page shows a colleague the same, within what that colleague may see.
 */
export function useListQuestion(object: ObjectKey, presets: readonly Preset[], sort: Sort) {
  const [parameters, setParameters] = useSearchParams();
  const asked = useMemo(() => questionIn(parameters.get('q'), object), [parameters, object]);
  const preset = presets.find(({ key }) => key === parameters.get('part')) ?? presets[0];
  const [sortField, direction] = (parameters.get('sort') ?? '').split('.');
  const question = useMemo<Question>(() => {
    const order = sortField ? { field: sortField, descending: direction === 'down' } : sort;
    const where = asked ? asked.where : allOf(preset.where);
    return { version: 1, object, ...(where ? { where } : {}), sort: [order] };
  }, [asked, preset, object, sortField, direction, sort]);
  const set = useCallback(
    (changes: Record<string, string | undefined>) => {
      setParameters((before) => {
        for (const [key, value] of Object.entries(changes)) {
          if (value === undefined) before.delete(key);
          else before.set(key, value);
        }
        return before;
      });
    },
    [setParameters],
  );
  const sortBy = useCallback(
    (field: string) => {
      const now = question.sort?.[0];
      set({ sort: now?.field === field && !now.descending ? `${field}.down` : field });
    },
    [question, set],
  );
  return {
    question,
    /** The question behind a figure, when that is what is shown. */
    asked,
    preset,
    choosePart: (key: string) => set({ part: key, q: undefined }),
    sortBy,
  };
}

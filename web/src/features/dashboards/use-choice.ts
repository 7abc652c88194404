import { type DashboardChoice } from '@zawn/core';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';

/** The parameter of an address that says what is chosen for all tiles. */
const CHOICE = 'c';

/** What is chosen for all tiles: as the address says, or as the dashboard begins. */
export function useChoice(own: DashboardChoice): [DashboardChoice, (next: DashboardChoice) => void] {
  const [parameters, setParameters] = useSearchParams();
  const text = parameters.get(CHOICE);
  const choice = useMemo<DashboardChoice>(() => {
    try {
      return text === null ? own : (JSON.parse(text) as DashboardChoice);
    } catch {
      return own;
    }
  }, [text, own]);
  const choose = (next: DashboardChoice) =>
    setParameters((all) => {
      const said = JSON.stringify(next);
      if (said === JSON.stringify(own)) all.delete(CHOICE);
      else all.set(CHOICE, said);
      return all;
    });
  return [choice, choose];
}

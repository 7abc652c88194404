import { useEffect } from 'react';
import { useTheme, type Mode } from '../theme/theme';
import { usePreferences } from './use-preferences';

/** Light or dark as the person chose it, in whichever browser, and the way to choose. */
export function useOwnMode(): [Mode, (mode: Mode) => void] {
  const [{ theme }, setPreferences] = usePreferences();
  const { mode, setMode } = useTheme();
  useEffect(() => {
    if (theme != null) setMode(theme);
  }, [theme, setMode]);
  const choose = (next: Mode) => {
    setMode(next);
    void setPreferences({ theme: next });
  };
  return [mode, choose];
}

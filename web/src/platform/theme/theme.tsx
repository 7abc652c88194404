import { App, ConfigProvider, theme as antd, type ThemeConfig } from 'antd';
import { createContext, use, useEffect, useMemo, useState, type ReactNode } from 'react';
import { dark, light, seriesColours, variablesOf, type Palette } from './palette';

export type Mode = 'light' | 'dark';

interface Theme {
  mode: Mode;
  palette: Palette;
  /** The colours of a chart with so many series. */
  series: (count: number) => readonly string[];
  setMode: (mode: Mode) => void;
}

export const ThemeContext = createContext<Theme | undefined>(undefined);
const STORED = 'zawn.theme';

/** The theme in force, and the way to change it. */
export function useTheme(): Theme {
  const theme = use(ThemeContext);
  if (!theme) throw new Error('useTheme outside of ThemeProvider');
  return theme;
}

const paletteOf = (mode: Mode): Palette => (mode === 'dark' ? dark : light);

/** The theme of a mode. */
export const themeIn = (mode: Mode, setMode: Theme['setMode']): Theme => ({
  mode,
  palette: paletteOf(mode),
  series: (count) => seriesColours(mode, count),
  setMode,
});

function firstMode(): Mode {
  const stored = localStorage.getItem(STORED);
  if (stored === 'light' || stored === 'dark') return stored;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

function configOf(mode: Mode, palette: Palette): ThemeConfig {
  return {
    algorithm: mode === 'dark' ? antd.darkAlgorithm : antd.defaultAlgorithm,
    token: {
      colorPrimary: palette.water,
      colorInfo: palette.water,
      colorLink: palette.water,
      colorError: palette.thrift,
      colorWarning: palette.gorse,
      colorSuccess: palette.lichen,
      colorText: palette.ink,
      colorTextPlaceholder: palette.inkSecond,
      colorTextSecondary: palette.inkSecond,
      colorBgBase: palette.sheet,
      colorBgLayout: palette.page,
      colorBorder: palette.line,
      colorBorderSecondary: palette.line,
      colorTextLightSolid: palette.waterInk,
      borderRadius: 4,
      borderRadiusLG: 4,
      fontFamily: "'Public Sans Variable', system-ui, sans-serif",
      fontSize: 13,
      controlHeight: 30,
      motionDurationMid: '0.12s',
      motionDurationSlow: '0.16s',
    },
  };
}

/** Sets the theme for the component library and, as custom properties, for everything else. */
export function ThemeProvider({ children }: { children: ReactNode }) {
  const [mode, setMode] = useState<Mode>(firstMode);
  const palette = paletteOf(mode);
  useEffect(() => {
    const root = document.documentElement;
    root.dataset.theme = mode;
    for (const [name, colour] of Object.entries(variablesOf(palette))) root.style.setProperty(name, colour);
    localStorage.setItem(STORED, mode);
  }, [mode, palette]);
  const value = useMemo(() => themeIn(mode, setMode), [mode]);
  return (
    <ThemeContext value={value}>
      <ConfigProvider theme={configOf(mode, palette)} wave={{ disabled: true }}>
        <App className="app-root" notification={{ placement: 'bottomLeft', maxCount: 3 }}>
          {children}
        </App>
      </ConfigProvider>
    </ThemeContext>
  );
}

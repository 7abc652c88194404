import { type MenuProps } from 'antd';
import { useState, type ComponentType, type ReactElement } from 'react';

interface Props {
  menu: MenuProps;
  className: string;
  /** How it is called, where its children do not say so. */
  label?: string;
  children: React.ReactNode;
}

/** A button of the bar with a menu, which is fetched when it is first opened. */
export function BarMenu({ menu, className, label, children }: Props) {
  const [loaded, setLoaded] = useState<{
    OpenMenu: ComponentType<{ menu: MenuProps; children: ReactElement }>;
  }>();
  const open = () => void import('./open-menu').then(({ default: OpenMenu }) => setLoaded({ OpenMenu }));
  const button = (
    <button
      type="button"
      className={className}
      aria-label={label}
      aria-haspopup="menu"
      {...(loaded ? {} : { onClick: open })}
    >
      {children}
    </button>
  );
  return loaded ? <loaded.OpenMenu menu={menu}>{button}</loaded.OpenMenu> : button;
}

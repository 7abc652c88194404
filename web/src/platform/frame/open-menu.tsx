import { Dropdown, type MenuProps } from 'antd';
import { useState, type ReactElement } from 'react';

interface Props {
  menu: MenuProps;
  children: ReactElement;
}

/** The menu of a button of the bar, open from the start: it was fetched because it was asked for. */
export default function OpenMenu({ menu, children }: Props) {
  const [isOpen, setOpen] = useState(true);
  return (
    <Dropdown trigger={['click']} open={isOpen} onOpenChange={setOpen} autoFocus menu={menu}>
      {children}
    </Dropdown>
  );
}

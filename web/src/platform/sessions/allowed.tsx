import { type ObjectKey, type Operation } from '@zawn/core';
import { ConfigProvider } from 'antd';
import { type ReactNode } from 'react';
import { useSession } from './session';

interface Props {
  object: ObjectKey;
  to: Operation;
  children: ReactNode;
}

/** Shown to those alone who may do this with records of a kind, whatever else of the page is not theirs to change. */
export function Allowed({ object, to, children }: Props) {
  const { policy } = useSession();
  return policy.allows(object, to) ? (
    <ConfigProvider componentDisabled={false}>{children}</ConfigProvider>
  ) : null;
}

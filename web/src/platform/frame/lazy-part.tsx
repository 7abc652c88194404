import { createElement, lazy, Suspense, type ReactNode } from 'react';

type Part<Props> = (props: Props) => ReactNode;

/**
 * A component that is fetched when it is first shown. The nearest `Suspense` around it waits for it: for what is shown
 * at once with all that stands beside it, so that nothing moves under the mouse.
 */
export function awaitedPart<Props extends object>(load: () => Promise<Part<Props>>): Part<Props> {
  return lazy(async () => ({ default: await load() }));
}

/**
 * A component that is fetched when it is first shown. What stands around it is not taken away meanwhile, nor the
 * focus from whoever types there: it waits in a place of its own, which is empty unless `waiting` says otherwise.
 */
export function lazyPart<Props extends object>(
  load: () => Promise<Part<Props>>,
  waiting?: Part<Props>,
): Part<Props> {
  const Awaited = awaitedPart(load);
  return function LazyPart(props: Props): ReactNode {
    return createElement(Suspense, { fallback: waiting?.(props) }, createElement(Awaited, props));
  };
}

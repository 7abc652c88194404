import { type DiscoveryService } from '@nestjs/core';

type Mark = ReturnType<typeof DiscoveryService.createDecorator>;

/** Knows the providers of all modules. */
export type Providers = Pick<DiscoveryService, 'getProviders'>;

const found = new WeakMap<Providers, Map<string, unknown[]>>();

/**
 * What carries a mark among the providers of all modules: that is how features are found without being named. The marks
 * are read off the classes, as Nest's own look by a mark knows only the last one of a class that carries several. To be
 * asked once modules have been put together; what was found is kept.
 */
export function discovered<T>(discovery: Providers, mark: Mark): T[] {
  const known = found.get(discovery) ?? new Map<string, unknown[]>();
  found.set(discovery, known);
  const marked = known.get(mark.KEY) ?? allWith(discovery, mark);
  known.set(mark.KEY, marked);
  return marked as T[];
}

const allWith = (discovery: Providers, mark: Mark): unknown[] =>
  discovery
    .getProviders()
    .filter(({ metatype }) => metatype && Reflect.hasMetadata(mark.KEY, metatype))
    .map(({ instance }) => instance as unknown);

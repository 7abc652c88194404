import { type DiscoveryService } from '@nestjs/core';

type Mark = ReturnType<typeof DiscoveryService.createDecorator>;

/** Knows the providers of all modules. */
export type Providers = Pick<DiscoveryService, 'getProviders'>;

/**
 * What carries a mark among the providers of all modules: that is how features are found without being named. The marks
 * are read off the classes, as Nest's own look by a mark knows only the last one of a class that carries several.
 */
export const discovered = <T>(discovery: Providers, mark: Mark): T[] =>
  discovery
    .getProviders()
    .filter(({ metatype }) => metatype && Reflect.hasMetadata(mark.KEY, metatype))
    .map(({ instance }) => instance as T);

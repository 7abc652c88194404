import { type DiscoveryService } from '@nestjs/core';

type Mark = ReturnType<typeof DiscoveryService.createDecorator>;

/** Knows the providers of all modules. */
export type Providers = Pick<DiscoveryService, 'getProviders'>;

/** What carries a mark among the providers of all modules: that is how features are found without being named. */
export const discovered = <T>(discovery: Providers, mark: Mark): T[] =>
  discovery.getProviders({ metadataKey: mark.KEY }).map(({ instance }) => instance as T);

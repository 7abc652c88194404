import { useQuery } from '@tanstack/react-query';
import { packDesignOf, readyPack, type Pack, type PackDesign, type ReadyPack } from '@zawn/core';
import { useMemo } from 'react';
import { keptPacks } from './queries';

/** The pack that an address names: kept, ready-made, or gone. */
export type ShownPack =
  | { kind: 'kept'; pack: Pack; design: PackDesign; name: string }
  | { kind: 'ready'; ready: ReadyPack; design: PackDesign; name: string }
  | { kind: 'gone'; isLoading: boolean };

export function usePack(key: string): ShownPack {
  const { data: kept, isPending } = useQuery(keptPacks);
  return useMemo(() => {
    const ready = readyPack(key);
    if (ready) return { kind: 'ready', ready, design: ready.design, name: ready.name };
    const pack = kept?.find(({ id }) => id === Number(key));
    const design = pack && packDesignOf(pack);
    return pack && design
      ? { kind: 'kept', pack, design, name: pack.name }
      : { kind: 'gone', isLoading: isPending };
  }, [key, kept, isPending]);
}

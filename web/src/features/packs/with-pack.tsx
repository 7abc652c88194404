import { type ComponentType } from 'react';
import { Link, useParams } from 'react-router';
import { Empty, Skeleton } from '../../platform/frame/states';
import { usePack, type ShownPack } from './use-pack';

export interface PackProps {
  /** What it is called in its address. */
  at: string;
  shown: Exclude<ShownPack, { kind: 'gone' }>;
}

/** Shows the pack that the address names, or says that it is gone. */
export function WithPack({ Show }: { Show: ComponentType<PackProps> }) {
  const { key = '' } = useParams();
  const shown = usePack(key);
  if (shown.kind !== 'gone') return <Show key={key} at={key} shown={shown} />;
  return shown.isLoading ? (
    <Skeleton rows={12} />
  ) : (
    <Empty title="This meeting pack is gone, or is not shared with you.">
      <Link to="/packs">See all meeting packs</Link>
    </Empty>
  );
}

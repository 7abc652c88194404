import { type Choosing, type DashboardChoice, type TileContent } from '@zawn/core';
import { type ReactNode } from 'react';

/** What a tile is shown with. */
export interface TileProps<Content extends TileContent> {
  tile: Content;
  choice: DashboardChoice;
  /** Says which parts of the choice the tile does not know. */
  ignore: (ignored: readonly Choosing[]) => ReactNode;
  /** Whether it is, or was, on the screen: what nobody looks at is not asked. */
  isSeen: boolean;
}

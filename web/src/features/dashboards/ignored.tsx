import { choosings, ignoredInWords, type Choosing, type DashboardChoice } from '@zawn/core';

/** Says which parts of what is chosen for all something does not know. */
export function Ignored({ ignored, choice }: { ignored: readonly Choosing[]; choice: DashboardChoice }) {
  const parts = choosings.filter((part) => ignored.includes(part) && choice[part] !== undefined);
  return parts.length === 0 ? null : <p className="second tile-ignored">{ignoredInWords(parts)}.</p>;
}

import { rhythmFault, rhythmInWords, type Folder, type Snapshot, type SnapshotPlan } from '@zawn/core';

/** When a schedule takes its snapshots, in words. */
export const planInWords = (plan: SnapshotPlan): string =>
  rhythmFault(plan) ? 'Not scheduled' : rhythmInWords(plan);

/** For whom a snapshot was taken, where it shows all of it to everyone who sees it. */
export function takenFor(
  snapshot: Snapshot,
  folder: Folder | undefined,
  teamName: (id: number) => string,
): string {
  if (snapshot.seenBy !== 'whole') return 'Each reader sees the records that they see';
  const { sharing, team, teams } = snapshot;
  const circle =
    sharing === 'everyone'
      ? 'everyone'
      : sharing === 'team' && team !== null
        ? `the team ${teamName(team)}`
        : sharing === 'teams'
          ? `the teams ${(teams ?? []).map((id) => teamName(Number(id))).join(', ')}`
          : 'whoever took it';
  return `Made for ${circle}, who see all of it${folder ? `, in “${folder.name}”` : ''}`;
}

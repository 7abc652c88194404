import {
  narrowedTo,
  reportPeriodInWords,
  type NoteTile as NoteContent,
  type WaterlineTile as WaterlineContent,
} from '@zawn/core';
import { date } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { Waterline } from '../forecast/waterline';
import { UpkeepInBrief } from '../upkeep/upkeep-in-brief';
import { type TileProps } from './tile-props';

/** How far whoever is chosen has come against their target. */
export function WaterlineTile({ choice, ignore }: TileProps<WaterlineContent>) {
  const { catalogue, teams, people, person } = useSession();
  // What one person is to win has no pipeline: against it all their deals count.
  const { pipeline, ...known } = choice;
  const { asked } = narrowedTo('deal', known, { catalogue, teams });
  const named = choice.person === undefined ? undefined : choice.person;
  const name =
    typeof named === 'number'
      ? (person(named)?.name ?? 'Somebody')
      : named !== undefined
        ? 'Me'
        : (teams.find(({ id }) => id === choice.team)?.name ?? (people.length > 1 ? 'Everyone' : 'Me'));
  return (
    <div className="tile-waterline">
      {ignore(pipeline === undefined ? [] : ['pipeline'])}
      <Waterline
        name={name}
        {...(asked ? { whose: asked } : {})}
        {...(choice.period
          ? { period: { in: choice.period, words: reportPeriodInWords(choice.period, date) } }
          : {})}
      />
    </div>
  );
}

/** What is wrong with the records, worst first. */
export function UpkeepTile({ isSeen }: { isSeen: boolean }) {
  return isSeen ? <UpkeepInBrief /> : null;
}

/** Words of somebody: paragraphs as they were written. */
export function NoteTile({ tile }: { tile: NoteContent }) {
  return (
    <div className="tile-note">
      {tile.text.split(/\n{2,}/).map((paragraph, index) => (
        <p key={index}>{paragraph}</p>
      ))}
    </div>
  );
}

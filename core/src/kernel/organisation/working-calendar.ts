import { weekdayKeys, type Day, type WeekdayKey, type WorkingCalendar } from '../../platform/time';

/** When somebody works as it is kept: what is left empty is as it is above. */
export interface BusinessHours {
  readonly workingDays?: readonly string[] | null;
  readonly opens?: string | null;
  readonly closes?: string | null;
}

export interface Holiday {
  readonly day: Day;
  readonly name: string;
  /** The team it is a holiday for, with those below it; everybody's when there is none. */
  readonly team?: number | null;
}

interface TeamHours extends BusinessHours {
  readonly id: number;
  readonly parent: number | null;
}

/** What everybody's calendars follow from. */
export interface WorkingTimes {
  readonly organisation: BusinessHours;
  readonly teams: readonly TeamHours[];
  readonly holidays: readonly Holiday[];
}

/** Where nothing is set: Monday to Friday, nine to five. */
const usual = { workingDays: weekdayKeys.slice(0, 5), opens: '09:00', closes: '17:00' } as const;

/** A team and those above it, the nearest first. */
function lineOf(team: number | null, teams: readonly TeamHours[]): TeamHours[] {
  const line: TeamHours[] = [];
  for (let at = teams.find(({ id }) => id === team); at && !line.includes(at);) {
    line.push(at);
    const above: number | null = at.parent;
    at = teams.find(({ id }) => id === above);
  }
  return line;
}

/**
 * When somebody works: by their own hours, else those of their team or of one above it, else the organisation's; on
 * no holiday of everybody's or of these teams.
 * @param team their main team.
 */
export function workingCalendar(
  { organisation, teams, holidays }: WorkingTimes,
  team: number | null,
  own: BusinessHours = {},
): WorkingCalendar {
  const line = lineOf(team, teams);
  const nearest = [own, ...line, organisation];
  const first = <K extends keyof BusinessHours>(key: K) => nearest.find((hours) => hours[key] != null)?.[key];
  // Opening and closing belong together: the hours of two teams are not mixed.
  const hours = nearest.find(({ opens, closes }) => opens != null && closes != null) ?? usual;
  const theirs = holidays.filter((each) => each.team == null || line.some(({ id }) => id === each.team));
  return {
    workingDays: (first('workingDays') as WeekdayKey[] | undefined) ?? usual.workingDays,
    opens: hours.opens ?? usual.opens,
    closes: hours.closes ?? usual.closes,
    holidays: new Map(theirs.map(({ day, name }) => [day, name])),
  };
}

/** What is wrong with hours that are to be kept; undefined when nothing is. */
export function hoursFault({ workingDays, opens, closes }: BusinessHours): string | undefined {
  if (workingDays?.length === 0) return 'Working days: choose one at least';
  if ((opens == null) !== (closes == null)) return 'Business hours: say both from when and until when';
  if (opens != null && closes != null && opens >= closes)
    return 'Business hours: they end after they have begun';
  return undefined;
}

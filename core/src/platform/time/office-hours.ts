/** Hours within which one can be called at work, on the clock of where they are. */
const OPENS = 9;
const CLOSES = 17;

const zonesByCountry = new Map<string, readonly string[]>();

/** The time zones of a country, as the platform knows them; none for what is no country. */
function zonesOf(country: string): readonly string[] {
  let zones = zonesByCountry.get(country);
  if (!zones) {
    const locale = new Intl.Locale(`und-${country}`) as Intl.Locale & {
      getTimeZones?: () => string[];
      timeZones?: string[];
    };
    zones = locale.getTimeZones?.() ?? locale.timeZones ?? [];
    zonesByCountry.set(country, zones);
  }
  return zones;
}

const clocks = new Map<string, Intl.DateTimeFormat>();

/** The time on the clocks of a zone: weekday from 1 for Monday, hours and minutes. */
function clockIn(zone: string, now: string): { weekday: number; hour: number; minute: number } {
  let format = clocks.get(zone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-GB', {
      timeZone: zone,
      weekday: 'short',
      hour: '2-digit',
      minute: '2-digit',
      hourCycle: 'h23',
    });
    clocks.set(zone, format);
  }
  const parts = new Map(format.formatToParts(Date.parse(now)).map(({ type, value }) => [type, value]));
  const days = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
  return {
    weekday: days.indexOf(parts.get('weekday') ?? '') + 1,
    hour: Number(parts.get('hour')),
    minute: Number(parts.get('minute')),
  };
}

/** Whether somebody in a country can be called at work now: in one of its zones it is a weekday between nine and five. */
export function isOfficeHour(country: string, now: string): boolean {
  return zonesOf(country).some((zone) => {
    const { weekday, hour } = clockIn(zone, now);
    return weekday <= 5 && hour >= OPENS && hour < CLOSES;
  });
}

/** The time in a country now, `14:05`; undefined where it has several or none. */
export function clockTimeIn(country: string, now: string): string | undefined {
  const times = new Set(
    zonesOf(country).map((zone) => {
      const { hour, minute } = clockIn(zone, now);
      return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
    }),
  );
  return times.size === 1 ? [...times][0] : undefined;
}

const QUARTER_MS = 15 * 60_000;
let found: { quarter: number; of: readonly string[]; open: string[] } | undefined;

/** Those of these countries where it is office hours now. Clocks differ by quarters of an hour, so that is how often it changes. */
export function inOfficeHours(countries: readonly string[], now: string): string[] {
  const quarter = Math.floor(Date.parse(now) / QUARTER_MS);
  if (found?.quarter !== quarter || found.of !== countries)
    found = { quarter, of: countries, open: countries.filter((country) => isOfficeHour(country, now)) };
  return found.open;
}

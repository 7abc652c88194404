/** The first of these that a browser's own words hold names it; most call themselves several. */
const BROWSERS = [
  [/\bEdg\//, 'Edge'],
  [/\bOPR\//, 'Opera'],
  [/\bFirefox\//, 'Firefox'],
  [/\b(Headless)?Chrom(e|ium)\//, 'Chrome'],
  [/\bSafari\//, 'Safari'],
] as const;
const SYSTEMS = [
  [/iPhone|iPad/, 'iOS'],
  [/Android/, 'Android'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
] as const;

/**
 * What to call a browser by how it names itself.
 * @example browserName('Mozilla/5.0 (X11; Linux x86_64; rv:145.0) Gecko/20100101 Firefox/145.0') // 'Firefox on Linux'
 */
export function browserName(userAgent: string): string {
  const browser = BROWSERS.find(([sign]) => sign.test(userAgent))?.[1];
  const system = SYSTEMS.find(([sign]) => sign.test(userAgent))?.[1];
  if (!browser) return userAgent === '' ? 'An unknown browser' : userAgent.slice(0, 40);
  return system ? `${browser} on ${system}` : browser;
}

/** ISO 3166 alpha-2 codes; their names come from the platform. */
export const countryCodes: readonly string[] =
  'AD AE AF AG AI AL AM AO AR AT AU AZ BA BB BD BE BF BG BH BI BJ BN BO BR BS BT BW BY BZ CA CD CF CG CH CI CL CM CN CO CR CU CV CY CZ DE DJ DK DM DO DZ EC EE EG ER ES ET FI FJ FM FO FR GA GB GD GE GG GH GI GL GM GN GQ GR GT GW GY HK HN HR HT HU ID IE IL IM IN IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MG MH MK ML MM MN MR MT MU MV MW MX MY MZ NA NE NG NI NL NO NP NR NZ OM PA PE PG PH PK PL PR PT PW PY QA RO RS RU RW SA SB SC SD SE SG SI SK SL SM SN SO SR SS ST SV SY SZ TD TG TH TJ TL TM TN TO TR TT TV TW TZ UA UG US UY UZ VA VC VE VN VU WS XK YE ZA ZM ZW'.split(
    ' ',
  );

/** Languages in which countries are understood. */
const LANGUAGES = ['pt', 'pl', 'da', 'nb', 'sv', 'nl', 'it', 'es', 'fr', 'de', 'en'];

/** What they are called beside their names. */
const others: Record<string, string> = {
  uk: 'GB',
  'great britain': 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  'northern ireland': 'GB',
  grossbritannien: 'GB',
  'republic of ireland': 'IE',
  eire: 'IE',
  usa: 'US',
  'united states of america': 'US',
  america: 'US',
  'etats-unis d’amerique': 'US',
  eeuu: 'US',
  holland: 'NL',
  'czech republic': 'CZ',
  'slovak republic': 'SK',
  'russian federation': 'RU',
  'south korea': 'KR',
  'korea, republic of': 'KR',
  uae: 'AE',
  turkey: 'TR',
  brd: 'DE',
};

/** Small letters without accents and points, and without the article: `The Netherlands`, `U.S.A.`. */
const plain = (name: string) =>
  name
    .normalize('NFD')
    .replace(/[\p{M}.]/gu, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/^the /, '');

let byName: Map<string, string> | undefined;

function names(): Map<string, string> {
  if (!byName) {
    byName = new Map();
    // The last named wins, so that English does where two languages differ.
    for (const language of LANGUAGES) {
      const local = new Intl.DisplayNames(language, { type: 'region' });
      for (const code of countryCodes) byName.set(plain(local.of(code) ?? code), code);
    }
    for (const [name, code] of Object.entries(others)) byName.set(plain(name), code);
    for (const code of countryCodes) byName.set(code.toLowerCase(), code);
  }
  return byName;
}

/** The ISO 3166 code of a country given by its code, or by its name in one of eleven languages, in any case. */
export function countryCode(text: string): string | undefined {
  // Most are codes already.
  return names().get(text.toLowerCase()) ?? names().get(plain(text));
}

/** Every country as code and English name, by name. */
export function countries(): { code: string; name: string }[] {
  const english = new Intl.DisplayNames('en', { type: 'region' });
  return countryCodes
    .map((code) => ({ code, name: english.of(code) ?? code }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

let english: Intl.DisplayNames | undefined;

/** The English name of a country; its code when the platform knows none. */
export function countryName(code: string): string {
  english ??= new Intl.DisplayNames('en', { type: 'region', fallback: 'code' });
  return /^[A-Z]{2}$/.test(code) ? (english.of(code) ?? code) : code;
}

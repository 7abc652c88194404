/** ISO 3166 alpha-2 codes; their names come from the platform. */
export const countryCodes: readonly string[] =
  'AD AE AF AG AI AL AM AO AR AT AU AZ BA BB BD BE BF BG BH BI BJ BN BO BR BS BT BW BY BZ CA CD CF CG CH CI CL CM CN CO CR CU CV CY CZ DE DJ DK DM DO DZ EC EE EG ER ES ET FI FJ FM FO FR GA GB GD GE GG GH GI GL GM GN GQ GR GT GW GY HK HN HR HT HU ID IE IL IM IN IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KZ LA LB LC LI LK LR LS LT LU LV LY MA MC MD ME MG MH MK ML MM MN MR MT MU MV MW MX MY MZ NA NE NG NI NL NO NP NR NZ OM PA PE PG PH PK PL PR PT PW PY QA RO RS RU RW SA SB SC SD SE SG SI SK SL SM SN SO SR SS ST SV SY SZ TD TG TH TJ TL TM TN TO TR TT TV TW TZ UA UG US UY UZ VA VC VE VN VU WS XK YE ZA ZM ZW'.split(
    ' ',
  );

const others: Record<string, string> = {
  uk: 'GB',
  'great britain': 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  usa: 'US',
  'united states of america': 'US',
  deutschland: 'DE',
  sverige: 'SE',
  norge: 'NO',
  holland: 'NL',
};

let byName: Map<string, string> | undefined;

function names(): Map<string, string> {
  if (!byName) {
    const english = new Intl.DisplayNames('en', { type: 'region' });
    byName = new Map(countryCodes.map((code) => [(english.of(code) ?? code).toLowerCase(), code]));
    for (const [name, code] of Object.entries(others)) byName.set(name, code);
    for (const code of countryCodes) byName.set(code.toLowerCase(), code);
  }
  return byName;
}

/** The ISO 3166 code of a country given by code or English name, in any case. */
export function countryCode(text: string): string | undefined {
  return names().get(text.trim().toLowerCase());
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

/** Languages in which files name their months. */
const LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl', 'sv', 'nb', 'da', 'pl', 'pt'];

/** Small letters without accents and points, so that `Févr.` and `fevr` are one name. */
const plain = (name: string) =>
  name
    .normalize('NFD')
    .replace(/[\p{M}.]/gu, '')
    .toLowerCase();

let known: Map<string, number> | undefined;

/** The months by their names in every language, long and short, in the nominative and as dates say them. */
function names(): Map<string, number> {
  if (known) return known;
  known = new Map();
  for (const language of LANGUAGES)
    for (const month of ['long', 'short'] as const)
      for (const day of [undefined, 'numeric'] as const) {
        const format = new Intl.DateTimeFormat(language, { month, day, timeZone: 'UTC' });
        for (let index = 0; index < 12; index += 1) {
          const parts = format.formatToParts(new Date(Date.UTC(2025, index, 15)));
          const name = plain(parts.find(({ type }) => type === 'month')?.value ?? '');
          if (name !== '' && !known.has(name)) known.set(name, index + 1);
        }
      }
  // Usual beside what is written today.
  for (const [name, month] of [
    ['sept', 9],
    ['jänner', 1],
    ['marz', 3],
    ['mrz', 3],
    ['maerz', 3],
  ] as const)
    known.set(plain(name), month);
  return known;
}

/** The month a name stands for, 1 to 12; undefined for any other word. */
export const monthNamed = (name: string): number | undefined => names().get(plain(name));

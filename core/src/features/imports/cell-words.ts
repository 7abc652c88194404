import { type Field } from '../../kernel/catalogue';

/** What people write into a cell that they have nothing for; no field takes these for a value. */
const NOTHING = new Set([
  '-',
  '--',
  '–',
  '—',
  '.',
  '?',
  'n/a',
  'n.a.',
  '#n/a',
  '(blank)',
  '(empty)',
  '(none)',
  'null',
]);

/** Words for nothing, which could be a choice’s name; `na` alone is also a country. */
const WORDS_FOR_NOTHING = new Set([
  ...['na', 'nil', 'none', 'unknown', 'not known', 'tbd', 'tba'],
  ...['keine', 'kein', 'unbekannt', 'k.a.', 'k. a.'],
  ...['aucun', 'aucune', 'inconnu', 'inconnue', 'néant'],
  ...['ninguno', 'ninguna', 'desconocido', 'desconocida'],
  ...['nessuno', 'nessuna', 'sconosciuto', 'sconosciuta'],
  ...['geen', 'onbekend'],
  ...['ingen', 'inget', 'okänd', 'okänt', 'ukjent', 'ukendt'],
  ...['brak', 'nieznany', 'nieznana'],
  ...['nenhum', 'nenhuma', 'desconhecido', 'desconhecida'],
]);

const LONGEST = Math.max(...[...NOTHING, ...WORDS_FOR_NOTHING].map((word) => word.length));

/** Whether a cell says that there is nothing to say, in a field of this kind. */
export function saysNothing({ type, choices = [] }: Pick<Field, 'type' | 'choices'>, text: string): boolean {
  // Most cells say more than any of these.
  if (text.length > LONGEST) return false;
  const word = text.toLowerCase();
  if (NOTHING.has(word)) return true;
  if (!WORDS_FOR_NOTHING.has(word) || type === 'tags') return false;
  if (word === 'na' && type === 'country') return false;
  return !choices.some(({ key, label }) => key.toLowerCase() === word || label.toLowerCase() === word);
}

/** What a spreadsheet shows where a formula failed. */
export const isSpreadsheetError = (text: string) =>
  text.startsWith('#') &&
  /^#(REF!|NAME\?|VALUE!|DIV\/0!|NULL!|NUM!|SPILL!|CALC!|FIELD!|BLOCKED!|GETTING_DATA|UNKNOWN!)$/i.test(text);

const YES = [
  ...['yes', 'y', 'true', '1', 'x', 'on', '✓', '✔', '✅', '☑'],
  ...['ja', 'j', 'wahr', 'oui', 'o', 'vrai', 'sí', 'si', 'sì', 's', 'verdadero', 'vero'],
  ...['waar', 'sant', 'sand', 'tak', 't', 'prawda', 'sim', 'verdadeiro'],
];
const NO = [
  ...['no', 'n', 'false', '0', 'off', '✗', '✘', '❌', '☐'],
  ...['nein', 'falsch', 'non', 'faux', 'falso', 'nee', 'onwaar', 'nej', 'nei', 'falskt', 'falsk', 'usant'],
  ...['nie', 'fałsz', 'não', 'nao'],
];
const answers = new Map<string, boolean>([
  ...YES.map((word) => [word, true] as const),
  ...NO.map((word) => [word, false] as const),
]);

/** Yes or no as people write and tick them, in ten languages; undefined for anything else. */
export const yesOrNo = (text: string): boolean | undefined => answers.get(text.toLowerCase());

import { nameSimilarity } from '../matching';
import { normaliseMail, normalisePhone, normaliseWeb } from '../../platform/normalise';
import { newText } from './new-text';

/** What a signature says of whoever wrote. */
export interface Signature {
  phone?: string;
  role?: string;
}

/** Lines that a signature has at most. */
const LONGEST = 9;
/** A name that signs is the sender's own even when it is shortened. */
const ALIKE = 0.6;
const PHONE = /(?:\+|\(?0)[\d\s().\-/]{6,22}\d/g;
const ROLE_LENGTH = 60;

/** The lines that sign a message: below its mark, or else from the sender's name near the end on. */
function signingLines(text: string, name: string): string[] {
  const lines = newText(text)
    .split('\n')
    .map((line) => line.trim());
  const mark = lines.lastIndexOf('--');
  if (mark >= 0)
    return lines
      .slice(mark + 1)
      .filter(Boolean)
      .slice(0, LONGEST);
  const last = lines.filter(Boolean).slice(-LONGEST);
  const named = last.findLastIndex((line) => isName(line, name));
  return named < 0 ? [] : last.slice(named);
}

const isName = (line: string, name: string) =>
  line.length <= 60 && nameSimilarity(line.replace(/,.*$/, ''), name) >= ALIKE;

const isContact = (line: string) =>
  line.includes('@') ||
  /\d{3}/.test(line) ||
  normaliseMail(line) !== undefined ||
  (!line.includes(' ') && normaliseWeb(line) !== undefined);

/**
 * Reads a phone number and a role from the signature of a message.
 * @param name whose signature it is: what stands on it or right below is the role.
 * @param country ISO 3166 code for phone numbers without a prefix.
 */
export function readSignature(text: string, name: string, country: string): Signature {
  const lines = signingLines(text, name);
  const phone = lines
    .flatMap((line) => line.match(PHONE) ?? [])
    .map((found) => normalisePhone(found.replace(/[/]/g, ' '), country))
    .find((number) => number !== undefined);
  const named = lines.findIndex((line) => isName(line, name));
  const behind = /,\s*(.+)$/.exec(lines[named] ?? '')?.[1];
  const below = named >= 0 ? lines[named + 1] : undefined;
  const role = [behind, below].find((each) => each && each.length <= ROLE_LENGTH && !isContact(each));
  return { ...(phone ? { phone } : {}), ...(role ? { role } : {}) };
}

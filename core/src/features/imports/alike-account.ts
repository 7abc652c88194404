import { type AnyRecord } from '../../kernel/catalogue';
import { workDomain } from '../matching/candidates';
import { nameKey } from './name-key';
import { type ReadPart } from './read-rows';
import { differingKey, type OnFile } from './recognise';

/** An account on file that a row probably means, and why. */
export interface AlikeAccount {
  known: AnyRecord;
  why: string;
}

/**
 * The account on file that a row’s account probably is, although its name is written otherwise: the same name but for
 * its legal form, or the website that an email of the row leads to. Undefined when there is none, or more than one.
 * @param keyOf what `alikeKey` says of a name; names repeat from row to row.
 */
export function alikeAccount(
  onFile: OnFile,
  part: ReadPart,
  email: unknown,
  keyOf: (name: string) => string,
): AlikeAccount | undefined {
  const { name } = part.values;
  if (typeof name !== 'string') return undefined;
  const only = (key: 'alike' | 'domain', text: string): AnyRecord | undefined => {
    const found = onFile
      .find('account', key, text)
      .filter(({ record }) => differingKey('account', record, part.values) === undefined);
    return found.length === 1 ? found[0].record : undefined;
  };
  const named = only('alike', keyOf(name));
  if (named)
    return { known: named, why: `probably “${String(named.name)}”: the same name, spelt differently` };
  const domain = workDomain(typeof email === 'string' ? email : undefined);
  const reached = domain === undefined ? undefined : only('domain', nameKey(domain));
  return (
    reached && {
      known: reached,
      why: `probably “${String(reached.name)}”: the email address is at its website`,
    }
  );
}

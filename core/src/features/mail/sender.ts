import { workDomain } from '../matching';
import { normaliseMail } from '../../platform/normalise';
import { nameInAddress, spelledOut } from './name-in-address';

/** Whoever wrote, as far as the head of their message says. */
export interface Sender {
  name: string;
  email: string;
  organisation?: string;
  /** The domain they work under. */
  web?: string;
}

/** A name in the order it is spoken: `"Seagrave, Runa"` → `Runa Seagrave`. */
function spokenName(name: string): string {
  const plain = name
    .replace(/["']/g, '')
    .replace(/\s*[([].*?[)\]]\s*/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const [last, first, more] = plain.split(', ');
  return first && !more ? `${first} ${last}` : plain;
}

/** The part of a domain that its owner chose: `mail.seagrave-harbour.co.example` → `seagrave-harbour`. */
function ownLabel(domain: string): string {
  const labels = domain.split('.').slice(0, -1);
  return labels.findLast((label) => label.length > 3) ?? labels.at(-1) ?? domain;
}

/**
 * Who sent a message. The organisation comes from the domain, unless that is a public mail provider's.
 * @returns undefined when the address is none.
 */
export function senderOf(from: { name: string; address: string }): Sender | undefined {
  const email = normaliseMail(from.address);
  if (email === undefined) return undefined;
  const given = spokenName(from.name);
  const isGiven = given !== '' && !given.includes('@');
  const domain = workDomain(email);
  return {
    name: isGiven ? given : nameInAddress(email),
    email,
    ...(domain ? { organisation: spelledOut(ownLabel(domain)), web: domain } : {}),
  };
}

import { type AnyRecord } from '../../kernel/catalogue';
import { type Signature } from './signature';

/** Something new that a signature says of somebody who is on file. */
export interface ContactSuggestion {
  field: 'phone' | 'role';
  value: string;
}

const plain = (text: unknown) =>
  (typeof text === 'string' ? text : '').trim().toLowerCase().replace(/\s+/g, ' ');

/** What a signature says that the record does not: a number that is neither its phone nor its mobile, another role. */
export function suggestionsFrom(record: AnyRecord, { phone, role }: Signature): ContactSuggestion[] {
  const seen: ContactSuggestion[] = [];
  if (phone && phone !== record.phone && phone !== record.mobile) seen.push({ field: 'phone', value: phone });
  if (role && plain(role) !== plain(record.role)) seen.push({ field: 'role', value: role });
  return seen;
}

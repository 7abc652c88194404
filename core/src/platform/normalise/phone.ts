import { parsePhoneNumberFromString } from 'libphonenumber-js';

/**
 * A number as it is read out, in the international format: `+44 1632 960118` of `+441632960118`. What is no number of
 * any country stays as it is.
 */
export const readablePhone = (phone: string): string =>
  parsePhoneNumberFromString(phone)?.formatInternational() ?? phone;

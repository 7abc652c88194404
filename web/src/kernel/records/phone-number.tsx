import { readablePhone } from '@zawn/core/phone';

/** A phone number as it is read out; as a link it rings it. */
export default function PhoneNumber({ phone, asLink }: { phone: string; asLink: boolean }) {
  const shown = readablePhone(phone);
  return asLink ? <a href={`tel:${phone}`}>{shown}</a> : shown;
}

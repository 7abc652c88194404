import { parseMail, type ParsedMail } from './parse-mail';

/** Takes one message apart in this thread. */
export default function read({ raw, now }: { raw: Uint8Array; now: string }): Promise<ParsedMail> {
  return parseMail(raw, now);
}

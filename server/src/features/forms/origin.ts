import { type SubmissionOrigin } from '@zawn/core';

const LONGEST = 500;
const MOST_MARKS = 10;
/** What links carry to say which campaign they belong to. */
const MARK = /^(utm_[a-z]{1,20}|campaign)$/;

const cut = (text: string | undefined) => text?.slice(0, LONGEST) ?? undefined;

function marksIn(address: string | undefined): Record<string, string> {
  if (!address || !URL.canParse(address)) return {};
  const marks = [...new URL(address).searchParams].filter(([name, value]) => MARK.test(name) && value);
  return Object.fromEntries(marks.slice(0, MOST_MARKS).map(([name, value]) => [name, value.slice(0, 200)]));
}

/** Only addresses of pages are kept, nothing a browser would run. */
const pageAddress = (text: string | undefined) =>
  text && URL.canParse(text) && /^https?:$/.test(new URL(text).protocol) ? cut(text) : undefined;

/**
 * Where someone came from, as far as their browser says.
 * @param own the address of the form's page itself, with its query.
 * @param page the address of the page around it, where it stands in another.
 * @param referrer the page that led there.
 */
export function originOf(own: string, page?: string, referrer?: string): SubmissionOrigin {
  const around = pageAddress(page);
  const before = pageAddress(referrer);
  return {
    ...(around ? { page: around } : {}),
    ...(before ? { referrer: before } : {}),
    campaign: { ...marksIn(around), ...marksIn(own) },
  };
}

/** An origin as a form sends it along, read back without trusting it. */
export function originSent(text: string | undefined): SubmissionOrigin {
  try {
    const { page, referrer, campaign } = JSON.parse(text ?? '') as Partial<Record<string, unknown>>;
    const marks = Object.entries((campaign ?? {}) as Record<string, unknown>)
      .filter(([name, value]) => MARK.test(name) && typeof value === 'string')
      .map(([name, value]) => `${name}=${encodeURIComponent(String(value))}`);
    const own = `http://form.invalid/?${marks.join('&')}`;
    const texts = [page, referrer].map((each) => (typeof each === 'string' ? each : undefined));
    return originOf(own, texts[0], texts[1]);
  } catch {
    return { campaign: {} };
  }
}

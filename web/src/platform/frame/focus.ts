/**
 * Whether what had the focus is gone and the person has not gone elsewhere: only then may the page put it somewhere.
 * @param closing what is just closing and counts as gone, though it may still stand on the page.
 */
export function isFocusLost(closing?: Element | null): boolean {
  const at = document.activeElement;
  return !at || at === document.body || (closing?.contains(at) ?? false);
}

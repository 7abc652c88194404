/**
 * Whether what had the focus is gone and the person has not gone elsewhere: only then may the page put it somewhere.
 * @param closing a selector of what is just closing and counts as gone.
 */
export function isFocusLost(closing?: string): boolean {
  const at = document.activeElement;
  return !at || at === document.body || (closing !== undefined && at.closest(closing) !== null);
}

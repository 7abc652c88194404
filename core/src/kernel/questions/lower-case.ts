/**
 * Letters without regard to case and to how they are put together, the same in memory and in every engine: one sigma,
 * ss for its one letter, an accent and its letter as one.
 */
export function lowerCase(text: string): string {
  // ASCII has neither.
  if (/^[ -~]*$/.test(text)) return text.toLowerCase();
  // Four signs whose plain form is ASCII stay as they are, so that engines may compare ASCII by themselves.
  const plain = text.replace(/[^\u0130\u212A\u037E\u1FEF]+/g, (run) => run.normalize('NFC').toLowerCase());
  return plain.replace(/ς/g, 'σ').replace(/ß/g, 'ss');
}

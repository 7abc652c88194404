/** A cell as it was copied from a spreadsheet: its amount, null when it is empty, undefined when it is none. */
export interface PastedCell {
  text: string;
  amount: number | null | undefined;
}

/** An amount with its thousands apart and its currency beside it; the last sign before one or two digits is decimal. */
function amountIn(text: string): number | null | undefined {
  const plain = text.replace(/[\s\u00A0\u202F’']|[A-Z]{3}|\p{Sc}/gu, '');
  if (plain === '' || plain === '-' || plain === '–') return null;
  const [, whole, decimals = ''] = /^(\d[\d.,]*?)(?:[.,](\d{1,2}))?$/.exec(plain) ?? [];
  if (whole === undefined || /[.,](?!\d{3}(\D|$))/.test(whole)) return undefined;
  return Number(`${whole.replace(/[.,]/g, '')}.${decimals || '0'}`);
}

/**
 * The cells of a copied range.
 * @example cellsIn('1,500\t2.000,50\n£3,000\t') // [[1500, 2000.5], [3000, null]]
 */
export function cellsIn(text: string): PastedCell[][] {
  return text
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .map((line) => line.split('\t').map((cell) => ({ text: cell.trim(), amount: amountIn(cell) })));
}

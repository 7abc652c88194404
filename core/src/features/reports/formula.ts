/** A formula as a tree. */
export type Expression =
  | { number: number }
  | { figure: string }
  | { sign: '+' | '-' | '*' | '/' | 'max' | 'min'; left: Expression; right: Expression };

/** What is wrong with a formula, and where it stands in the text, from 0. */
export interface FormulaFault {
  message: string;
  at: number;
}

const TOKEN = /\s*(?:(\d+(?:\.\d+)?)|([a-z][a-z0-9]*)|([-+*/(),×÷−]))/iy;
const signs: Record<string, string> = { '×': '*', '÷': '/', '−': '-' };
/** What gives the larger, and the smaller, of two. */
const isChoice = (name: string): name is 'max' | 'min' => name === 'max' || name === 'min';
/** Parentheses within each other; nobody writes more, and each takes a call. */
const DEEPEST = 50;

interface Token {
  at: number;
  number?: number;
  figure?: string;
  sign?: string;
}

function tokensOf(text: string): Token[] | FormulaFault {
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.trimEnd().length) {
    const from = TOKEN.lastIndex;
    const found = TOKEN.exec(text);
    if (!found) {
      const at = from + (/^\s*/.exec(text.slice(from))?.[0].length ?? 0);
      return { message: `“${text[at]}” cannot stand in a formula`, at };
    }
    const [whole, digits, name, sign] = found;
    const at = from + whole.length - whole.trimStart().length;
    if (digits !== undefined) tokens.push({ at, number: Number(digits) });
    else if (name !== undefined) tokens.push({ at, figure: name });
    else tokens.push({ at, sign: signs[sign] ?? sign });
  }
  return tokens;
}

/**
 * Reads a formula of figures, numbers, `+ - * /`, parentheses, and `max(a, b)` and `min(a, b)`.
 * @returns the tree, or the first thing that is wrong with it.
 */
export function readFormula(text: string): Expression | FormulaFault {
  const tokens = tokensOf(text);
  if (!Array.isArray(tokens)) return tokens;
  let next = 0;
  let depth = 0;
  const fault = (message: string): never => {
    // Thrown and caught within this function alone: a reader that goes down by calls leaves them at once.
    throw Object.assign(new Error(message), { at: tokens.at(next)?.at ?? text.length });
  };
  const isSign = (...wanted: string[]) => wanted.includes(tokens.at(next)?.sign ?? '');

  const single = (): Expression => {
    const token = tokens.at(next);
    if (!token) return fault('Something is missing at the end');
    next += 1;
    if (token.number !== undefined) return { number: token.number };
    if (token.figure !== undefined && isChoice(token.figure) && isSign('(')) return choice(token.figure);
    if (token.figure !== undefined) return { figure: token.figure };
    if (token.sign === '-') return { sign: '-', left: { number: 0 }, right: single() };
    next -= 1;
    if (token.sign !== '(') return fault(`Something is missing before “${token.sign}”`);
    return inParentheses(sum);
  };
  /** What stands within parentheses, the first of which is next. */
  const inParentheses = <T>(part: () => T): T => {
    next += 1;
    depth += 1;
    if (depth > DEEPEST) return fault('There are too many parentheses within each other');
    const inner = part();
    if (!isSign(')')) return fault('A parenthesis is not closed');
    next += 1;
    depth -= 1;
    return inner;
  };
  const choice = (sign: 'max' | 'min'): Expression =>
    inParentheses(() => {
      const left = sum();
      if (!isSign(',')) return fault(`“${sign}” takes two figures, with a comma between them`);
      next += 1;
      return { sign, left, right: sum() };
    });
  const chain = (part: () => Expression, ...of: ('+' | '-' | '*' | '/')[]): Expression => {
    let left = part();
    while (isSign(...of)) {
      const sign = tokens[next].sign as '+';
      next += 1;
      left = { sign, left, right: part() };
    }
    return left;
  };
  const product = (): Expression => chain(single, '*', '/');
  const sum = (): Expression => chain(product, '+', '-');

  try {
    const read = sum();
    if (next < tokens.length) fault('A sign such as + or / is missing here');
    return read;
  } catch (error) {
    const { message, at } = error as FormulaFault;
    return { message, at };
  }
}

export const isFormulaFault = (read: Expression | FormulaFault): read is FormulaFault => 'message' in read;

/** The figures a formula names. */
export function figuresNamed(expression: Expression): string[] {
  if ('number' in expression) return [];
  if ('figure' in expression) return [expression.figure];
  return [...figuresNamed(expression.left), ...figuresNamed(expression.right)];
}

/** The two figures of a formula that is one divided by another and nothing else. */
export function ratioParts(text: string): [of: string, to: string] | undefined {
  const read = readFormula(text);
  if (isFormulaFault(read) || !('sign' in read) || read.sign !== '/') return undefined;
  const { left, right } = read;
  return 'figure' in left && 'figure' in right ? [left.figure, right.figure] : undefined;
}

/** What a formula comes to; nothing where a figure is nothing, or is divided by zero. */
export function evaluate(expression: Expression, figureOf: (key: string) => number | null): number | null {
  if ('number' in expression) return expression.number;
  if ('figure' in expression) return figureOf(expression.figure);
  const left = evaluate(expression.left, figureOf);
  const right = evaluate(expression.right, figureOf);
  if (left === null || right === null) return null;
  switch (expression.sign) {
    case '+':
      return left + right;
    case '-':
      return left - right;
    case '*':
      return left * right;
    case 'max':
      return Math.max(left, right);
    case 'min':
      return Math.min(left, right);
    default:
      return right === 0 ? null : left / right;
  }
}

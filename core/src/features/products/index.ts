import { ask, type Condition, type Question } from '../../kernel/questions';

/**
 * The question for products that are called something like a text, by name or code; all of them where it is empty.
 * @param more what else they have to meet.
 */
export function productsNamed(text: string, ...more: readonly Condition[]): Question {
  const words = text.trim();
  const named: Condition | undefined = words
    ? { join: 'any', of: ['name', 'code'].map((field) => ({ field, is: 'contains', value: words })) }
    : undefined;
  return ask('product', ...more, named);
}

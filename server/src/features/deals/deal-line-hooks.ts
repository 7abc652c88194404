import { lineSum } from '@zawn/core';
import { invalidInput } from '../../platform/http/problem';
import { type RecordHooks } from '../../kernel/records/record-hooks';

/** What it means to write a line of a deal: it says what is meant, and what it comes to. */
export const dealLineHooks: RecordHooks = {
  object: 'dealLine',
  async beforeWrite(unit, next, before) {
    if (unit.undoes !== undefined) return;
    const line = { ...before, ...next };
    if (next.product && next.product !== before?.product) {
      const product = await unit.find('product', Number(next.product)).catch(() => undefined);
      if (product?.retired === true)
        throw invalidInput([
          { field: 'product', message: `Product: ${String(product.name)} is not sold any more` },
        ]);
      // Its name then, as it was sold: a product that is renamed later changes no line.
      if (!next.name) line.name = next.name = product?.name ?? null;
    }
    if (!line.name)
      throw invalidInput([{ field: 'name', message: 'What: choose a product, or say what is sold' }]);
    const sum = lineSum({ quantity: Number(line.quantity), unitPrice: Number(line.unitPrice) });
    if (sum === undefined)
      throw invalidInput([
        { field: 'quantity', message: 'Quantity: the line comes to more than can be counted' },
      ]);
    next.sum = sum;
  },
};

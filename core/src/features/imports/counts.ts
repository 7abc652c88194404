import { type ImportCounts } from './api';

/** How many records an import writes, those beside the main ones included. */
export const writesOf = ({ create, maybe, update, others }: ImportCounts): number =>
  Object.values(others).reduce(
    (sum, beside) => sum + (beside.create ?? 0) + (beside.maybe ?? 0) + (beside.update ?? 0),
    create + maybe + update,
  );

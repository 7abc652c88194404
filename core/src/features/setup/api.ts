import { type ObjectKey } from '../../kernel/catalogue';

/** A tag in use, with how many records of each kind carry it. */
export interface TagUses {
  name: string;
  uses: Partial<Record<ObjectKey, number>>;
}

import { type RecordOf } from '../../kernel/catalogue';

/** The objects that territories are made of. */
export type TerritoryKind = RecordOf<'territory'>['object'];

/** How many records would go from one territory, or none, into another, or none. */
export interface TerritoryMove {
  from: number | null;
  to: number | null;
  count: number;
}

export interface TerritoryPreview {
  object: TerritoryKind;
  /** How many records each territory would hold; null stands for none. */
  held: { territory: number | null; count: number }[];
  moves: TerritoryMove[];
  /** Territories that are passed over, as they ask about something that is gone. */
  asleep: number[];
}

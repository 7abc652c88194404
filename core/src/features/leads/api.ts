import { type ConversionProposal } from './conversion';
import { type Score } from './score';
import { type NamedCandidate } from '../matching/api';
import { type AnyRecord, type FieldValue } from '../../kernel/catalogue';

export interface ConversionPreview {
  proposal: ConversionProposal;
  contacts: NamedCandidate[];
  accounts: NamedCandidate[];
}

/** A part of a conversion: the record to link, or the values of the one to create. */
export type ConversionPart = { link: number } | { create: Record<string, FieldValue> };

export interface ConversionChoice {
  contact: ConversionPart;
  /** Others of the same account who come along. */
  others?: ConversionPart[];
  account: ConversionPart | null;
  deal: Record<string, FieldValue> | null;
  /** The deal is closed as won at once. */
  won?: boolean;
}

export interface Converted {
  lead: AnyRecord;
  contact: number;
  others: number[];
  account: number | null;
  deal: number | null;
}

/** A lead's score, the rules that gave it, and the rules that count for nobody because a field of theirs is gone. */
export type ScoreAnswer = Score & { asleep: number[] };

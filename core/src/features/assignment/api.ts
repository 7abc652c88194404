/** Who would get a lead, and how that came about. */
export interface AssignmentTrial {
  owner: number;
  /** The rule that decided; null when none did and it is the default owner's. */
  rule: number | null;
  tried: { id: number; name: string; isMet: boolean }[];
  /** Rules that count for nobody, since a part of their condition is gone; with that part in words. */
  asleep: { id: number; why: string }[];
}

import { type SubjectKey } from '../../kernel/catalogue';

/** How a call ended. */
export type CallEnd =
  /** One of both hung up after they had talked. */
  | 'hungUp'
  | 'theyHungUp'
  /** Nobody was reached. */
  | 'busy'
  | 'unanswered'
  /** It came in and was not taken. */
  | 'declined'
  | 'missed'
  /** The line was lost, as when Zawn was stopped. */
  | 'cut';

/** A call under way, or one of which is not yet said what came of it. */
export interface PhoneCall {
  id: number;
  direction: 'out' | 'in';
  number: string;
  state: 'ringing' | 'talking' | 'ended';
  /** Who took it. */
  answeredBy: 'person' | 'machine' | null;
  end: CallEnd | null;
  /** UTC instants. */
  startedAt: string;
  answeredAt: string | null;
  endedAt: string | null;
  /** What it has become: there once it ended. */
  activity: number | null;
  /** Whom it is with, or what it is about; null for a number nobody here has, or that several have. */
  on: { object: SubjectKey; id: number; name: string } | null;
  /** The call list it was made from. */
  list: number | null;
}

/** Why somebody on a call list is passed over for now. */
export type PassedOver = 'gone' | 'noNumber' | 'noCalls' | 'reached' | 'offHours';

/** How far a call list is. */
export interface CallListProgress {
  /** How many are on it. */
  count: number;
  called: number;
  waiting: number;
}

/** The next of a call list: a call that rings, or why nobody is left to be called now. */
export interface NextOfList {
  call: PhoneCall | null;
  /** Those passed over on the way, by reason. */
  passed: Partial<Record<PassedOver, number>>;
  progress: CallListProgress;
}

/** The call that one has to do with now. */
export interface CurrentCall {
  call: PhoneCall | null;
  /** UTC instant at which this was told: how long a call goes on is counted from it. */
  now: string;
}

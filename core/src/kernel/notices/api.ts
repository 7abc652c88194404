/** What a person is told of. */
export type NoticeKind =
  | 'leadArrived'
  | 'mailArrived'
  | 'handedOver'
  | 'taskAssigned'
  | 'taskDone'
  | 'mentioned'
  | 'importFinished'
  | 'ruleAsleep'
  | 'snapshotFailed'
  | 'dueSoon';

/** Something a person was told of, with what it is about. */
export interface Notice {
  id: number;
  at: string;
  kind: NoticeKind;
  text: string;
  /** The address within Zawn that it leads to. */
  path: string;
  readAt: string | null;
}

export interface NoticesPage {
  rows: Notice[];
  unread: number;
  /** Goes on behind the notice with this id; null at the end. */
  next: number | null;
}

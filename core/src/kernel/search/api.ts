import { type SubjectKey } from '../catalogue';

export interface Hit {
  /** The record that is opened: of a note or an activity, the one it hangs on. An activity may hang on none. */
  object: SubjectKey | 'activity';
  id: number;
  name: string;
  /** What tells it from others of the same name. */
  detail: string;
  /** The note, activity or mail in which it was found, and the words around. */
  in?: { kind: 'note' | 'activity' | 'mail'; text: string };
}

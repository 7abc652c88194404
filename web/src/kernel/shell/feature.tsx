import {
  type AnyRecord,
  type FieldValue,
  type List,
  type Names,
  type ObjectKey,
  type Preferences,
  type Question,
  type SubjectKey,
  type TimelineEntry,
  type TimelineKinds,
  type Operation,
} from '@zawn/core';
import { createContext, use, type ComponentType, type ReactNode } from 'react';
import { type RouteObject } from 'react-router';
import { type Write } from '../../platform/api/use-write';
import { type useSession } from '../../platform/sessions/session';
import { type Marks } from '../records/marks';
import { type Addable } from './addable';
import { type Place } from './places';

type Session = ReturnType<typeof useSession>;

/** What is shown of a record. */
export interface SheetProps {
  object: SubjectKey;
  record: AnyRecord;
  names: Names;
  /** What the person may do with it beside seeing it. */
  may: readonly Operation[];
  /** Opens one of the forms by which things are written to the timeline. */
  write: (form: string) => void;
}

/** What a feature shows on the sheets of an object, each part in the order of the features. */
export interface SheetParts {
  /** What stands in the head beside the name. */
  Head?: ComponentType<SheetProps>;
  /** Lines under the head. */
  Under?: ComponentType<SheetProps>;
  /** Above the timeline. */
  Above?: ComponentType<SheetProps>;
  /** Under the facts. */
  Beside?: ComponentType<SheetProps>;
  /** Whether nothing can be changed any more. */
  isReadOnly?: (record: AnyRecord) => boolean;
}

/** An object that can be added from anywhere by its letter behind `c`. */
export interface Addition {
  object: Addable;
  label: string;
  letter: string;
  /** Asks for more than fields; undefined as long as that is not understood. */
  More?: ComponentType<{ onChange: (values: Record<string, FieldValue> | undefined) => void }>;
  /** The fields that it asks for. */
  asks?: readonly string[];
  /** What a person's own new ones begin with. */
  begins?: (session: Session, preferences: Preferences) => Record<string, FieldValue>;
}

/** A form that writes to the timeline of a record. */
export interface TimelineForm {
  key: string;
  label: string;
  shortcut?: string;
  /** What its shortcut does, in words. */
  does?: string;
  /** What is offered on a note, whose lines it can begin with. */
  fromNote?: string;
  Form: ComponentType<{ on: { object: SubjectKey; id: number }; what?: string; close: () => void }>;
}

/** What is handed to a part that is shown in the cell of a table. */
export type CellPartProps = SheetProps & { close: () => void };

/**
 * What asks, in the cell of a table, for what a computed figure follows from. It is opened like the editing of a
 * cell, and closes itself when it has its answer.
 */
export interface CellPart {
  objects: readonly SubjectKey[];
  fields: readonly string[];
  Part: ComponentType<CellPartProps>;
}

type EntryOf<Kind extends keyof TimelineKinds> = Extract<TimelineEntry, { kind: Kind }>;

/** How entries of a kind are shown. */
export interface TimelineKind<Kind extends keyof TimelineKinds = keyof TimelineKinds> {
  kind: Kind;
  /** What the timeline is narrowed to when only these are looked for. */
  shownAs: string;
  Sign: ComponentType<{ entry: EntryOf<Kind> }>;
  Line: ComponentType<{ entry: EntryOf<Kind> }>;
  /** Who did it: a person here, or how somebody from outside is called. */
  who: (entry: EntryOf<Kind>) => number | string;
}

/** A kind of entry, its type kept for those who show it. */
export const timelineKind = <Kind extends keyof TimelineKinds>(kind: TimelineKind<Kind>): TimelineKind =>
  kind as unknown as TimelineKind;

/** What is done with the rows marked in a table. */
export interface MarkedRowsProps {
  object: ObjectKey;
  question: Question;
  total: number;
  marks: Marks;
  setMarks: (marks: Marks) => void;
  /** The list that is looked at, when it is one's own to change. */
  list?: List;
  exportMarked: ReactNode;
}

/** A line typed into *Go anywhere* that says what is to be done with a record. */
export interface Saying {
  /** How the record was called in it. */
  about: string;
  objects: readonly SubjectKey[];
  /** What it is, before the words: `Plan`. */
  kind: string;
  /** What would be done with a record of this name; undefined where the line cannot be followed. */
  label: (name: string) => string;
  /** What is not understood: nothing is done then. */
  unclear?: string;
  write: (on: { object: SubjectKey; id: number }) => Write;
}

/** Reads a line typed into *Go anywhere*; nothing where it is none of the feature's own. */
export type ReadSaying = (text: string, session: Session) => Saying | undefined;

/** What is done with all that a view shows. */
export interface ViewAction {
  key: string;
  label: string;
  objects: readonly ObjectKey[];
  Dialog: ComponentType<{ question: Question; name: string; close: () => void }>;
}

/** What a feature brings to the application. The shell, the sheet and the timeline name none. */
export interface Feature {
  /** Pages, each a bundle of its own, fetched when it is first gone to. */
  pages?: readonly RouteObject[];
  places?: readonly Place[];
  additions?: readonly Addition[];
  sheets?: Partial<Record<SubjectKey, SheetParts>>;
  forms?: readonly TimelineForm[];
  cells?: readonly CellPart[];
  timeline?: readonly TimelineKind[];
  MarkedRows?: ComponentType<MarkedRowsProps>;
  viewActions?: readonly ViewAction[];
  /** Fetches what reads lines typed into *Go anywhere*, once somebody begins to type there. */
  sayings?: () => Promise<ReadSaying>;
  /** What stands below every page while there is something of it to be seen. */
  Docked?: ComponentType;
}

const FeatureContext = createContext<readonly Feature[]>([]);
export const FeatureProvider = FeatureContext.Provider;

type OneOf<T> = T extends readonly (infer Each)[] ? Each : T;

/** What all features bring of one kind, in the order of the features. */
export function useBrought<K extends keyof Feature>(what: K): OneOf<NonNullable<Feature[K]>>[] {
  return use(FeatureContext).flatMap(
    (feature) => (feature[what] ?? []) as OneOf<NonNullable<Feature[K]>> | OneOf<NonNullable<Feature[K]>>[],
  );
}

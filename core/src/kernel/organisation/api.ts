import { type Actor, type Sells } from '../policy';
import { type Choice, type CustomField, type ObjectKey, type RecordOf } from '../catalogue';
import { type BusinessHours, type Holiday } from './working-calendar';
import { type Profile } from './profile';
import { type NoticeKind } from '../notices/api';
import { type Rate } from '../../platform/money';
import { type CalendarRules, type Day } from '../../platform/time';

/** How amounts in a currency are written; what is null is as usual where one reads. */
export type CurrencyFormat = Pick<RecordOf<'currencyFormat'>, 'currency' | 'symbol' | 'decimals' | 'place'>;

export interface OrganisationSettings extends CalendarRules {
  name: string;
  currency: string;
  timeZone: string;
  country: string;
}

/** What the first start asks for: the organisation and the person who sets everything else up. */
export interface FirstRun extends OrganisationSettings {
  person: { name: string; email: string; password: string };
}

/** What everyone in the organisation knows of one person. */
export interface Colleague {
  id: number;
  name: string;
  email: string;
  /** The key of their own role; others may come with `roleGrant`. */
  role: string;
  /** Whether they have leads, deals and a target, by all of their roles. */
  sells: Sells;
  jobTitle: string | null;
  team: number | null;
  active: boolean;
  /** The fingerprint of their photo; left out where they have none. */
  photo?: string;
  /** The last day they are away; left out while they are here. */
  awayUntil?: Day;
}

export interface Team extends BusinessHours {
  id: number;
  name: string;
  parent: number | null;
}

/** Everything around the records that a browser needs once. */
export interface SessionData {
  /** On whose behalf is asked: what they may see and do follows from it. */
  actor: Actor;
  me: Colleague;
  /** The people of my team and of those below it, me included. */
  team: readonly number[];
  /** The last entry of the change log at the time: what is written behind it is to be heard of. */
  lastChange: number;
  today: Day;
  /** `keepBin` are the days that what was deleted is kept; null for good. */
  organisation: OrganisationSettings &
    BusinessHours &
    Pick<RecordOf<'organisation'>, 'keepBin' | 'wordsYear' | 'wordsDate' | 'wordsCustomers' | 'wordsWith'>;
  /** From the beginning of last year on. */
  holidays: Holiday[];
  currencyFormats: CurrencyFormat[];
  /** What I say about myself. */
  profile: Profile;
  people: Colleague[];
  teams: Team[];
  pipelines: RecordOf<'pipeline'>[];
  stages: RecordOf<'stage'>[];
  /** Which teams work with which pipeline; one without any is everybody's. */
  pipelineTeams: RecordOf<'pipelineTeam'>[];
  rates: Rate[];
  /** The organisation's own fields; with the built-in ones they are its catalogue. */
  customFields: CustomField[];
  /** The lists of choices it made its own. */
  choiceLists: RecordOf<'choiceList'>[];
  /** What people's roles are called, in the order they are offered in. */
  roles: Choice[];
  /** What the person set for themselves: pinned views, the default one of each object. */
  preferences: Preferences;
}

/** What a new task of somebody begins with; what is left out is as for everybody. */
export interface TaskDefaults {
  /** Its name; `{name}` in it is the name of the record it is planned on. */
  name?: string;
  /** When it is due, in words. */
  when?: string;
  priority?: string;
  owner?: number;
  description?: string;
}

/** What a person set for themselves. */
export interface Preferences {
  /** The view each object opens with, by object. */
  defaultViews?: Partial<Record<ObjectKey, number>>;
  /** Views and lists that stand in the rail, in their order: `view-12`, `list-3`. */
  pinned?: string[];
  /** Lists shared by others that the person does not want to see. */
  hiddenLists?: number[];
  /** The first and the last day the person is away; who is away gets no new leads. */
  awayFrom?: Day | null;
  awayUntil?: Day | null;
  /** Who stands in meanwhile: sees and works on what is the person's own, and is told what they are told. */
  substitute?: number | null;
  /** Kinds of notices the person does not want. */
  silenced?: NoticeKind[];
  /** Kinds of notices that the person does not want by email as well. */
  unmailed?: NoticeKind[];
  /** Kinds of notices that the browser shows as well while another page is looked at. */
  inBrowser?: NoticeKind[];
  /** So many minutes before its time one is reminded of an activity; ten when left out. */
  remindBefore?: number;
  /** When one is told by email what is due and what was done, `HH:MM`; never when left out. */
  digestAt?: string | null;
  /** What a new task of one's own begins with. */
  taskDefaults?: TaskDefaults | null;
  /** The language that dates and numbers are written in, as BCP 47; the browser's when left out. */
  locale?: string | null;
  /** Light or dark; as the machine has it when left out. */
  theme?: 'light' | 'dark' | null;
  /** Whoever sets up has put the first steps away. */
  hidesFirstHour?: boolean;
  /** The order in which the lines of a day are to be worked, where it is another than theirs. */
  workOrder?: { day: Day; first: string[]; rest: string[] };
  /** How open deals are laid out: stages rising over the months, or side by side. */
  dealArrangement?: 'months' | 'stages';
  /** The dashboard that Zawn opens with, kept or one that comes with it; Today when left out. */
  home?: string | null;
}

export type SignedIn = {
  signedIn: true;
  csrf: string;
  /** A role asks for a second step that is not set up yet: until it is, nothing else is open. */
  owesSecondStep: boolean;
} & SessionData;

/** What the sign-in page needs. */
export interface SignedOut {
  signedIn: false;
  organisationExists: boolean;
  /** In the demo, the people one can be with one click. */
  demoPeople: Pick<Colleague, 'name' | 'email' | 'sells' | 'jobTitle'>[];
}

export type SessionAnswer = SignedIn | SignedOut;

/** The demo company that can be looked around in beside one's own organisation. */
export interface DemoCompany {
  isOffered: boolean;
  /** Where it is, once it runs. */
  address?: string;
}

/** A link lets somebody in for the first time, or again when the password was forgotten. */
export type PasswordLinkPurpose = 'invitation' | 'reset';

/** What a link to set a password says before it is used. */
export interface PasswordLink {
  purpose: PasswordLinkPurpose;
  /** Whose password it sets. */
  name: string;
  email: string;
  organisation: string;
  expiresAt: string;
}

/** A link just made, to be handed over. It is not shown again. */
export interface NewPasswordLink {
  purpose: PasswordLinkPurpose;
  address: string;
  expiresAt: string;
  /** Whether it was sent to the person by email as well. */
  isMailed: boolean;
}

/** So much of something that a night let go of, as it was kept long enough. */
export interface LetGo {
  at: string;
  what: string;
  count: number;
}

/** How somebody came in. */
export type SignInWay = 'password' | 'link' | 'recoveryCode' | 'firstStart';

/** A session of one's own that has not ended. */
export interface OwnSession {
  id: string;
  /** When it was begun. */
  at: string;
  address: string;
  browser: string;
  /** The one that asks. */
  isThis: boolean;
}

/** A sign-in, or a try that did not get in. */
export interface SignInTry {
  at: string;
  how: SignInWay;
  isIn: boolean;
  address: string;
  browser: string;
}

/** One's own way in: where it is open, and what was tried. */
export interface OwnAccess {
  sessions: OwnSession[];
  /** The latest first. */
  signIns: SignInTry[];
  secondStep: {
    isOn: boolean;
    /** A role asks for it, so it stays on. */
    isAsked: boolean;
    recoveryCodesLeft: number;
  };
}

/** A second step that is being set up: on once a first code has come. */
export interface NewSecondStep {
  /** What a person types in where they cannot scan: base 32. */
  secret: string;
  /** The same as a picture to scan, in SVG. */
  picture: string;
}

/** How somebody gets in, for whoever looks after people. */
export interface PersonAccess {
  person: number;
  hasPassword: boolean;
  hasSecondStep: boolean;
  /** Until when the latest link that was not used works, or worked. */
  linkUntil: string | null;
  lastSignInAt: string | null;
  sessions: number;
}

/** What rates stand in a text, and which of its lines are none. */
export interface RatesRead {
  /** One unit of each currency in the reporting currency. */
  rates: Rate[];
  faults: { line: number; message: string }[];
}

/** How many of what was entered were new, took the place of another, and were so already. */
export interface EntriesWritten {
  created: number;
  changed: number;
  same: number;
}

/** Holidays as they stand in a calendar, the earliest first, and what in it is none. */
export interface HolidaysRead {
  holidays: Holiday[];
  faults: string[];
}

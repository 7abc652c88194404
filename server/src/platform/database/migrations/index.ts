import { Foundation1763856000000 } from './1763856000000-foundation';
import { ViewsListsAndCustomFields1764201600000 } from './1764201600000-views-lists-and-custom-fields';
import { Imports1764806400000 } from './1764806400000-imports';
import { Notices1764892800000 } from './1764892800000-notices';
import { AssignmentRules1764979200000 } from './1764979200000-assignment-rules';
import { Tokens1765065600000 } from './1765065600000-tokens';
import { ActivitiesInSearch1765152000000 } from './1765152000000-activities-in-search';
import { FormsAndCaptureAddresses1765238400000 } from './1765238400000-forms-and-capture-addresses';
import { ChoiceLists1765324800000 } from './1765324800000-choice-lists';
import { QualificationAndTouch1765411200000 } from './1765411200000-qualification-and-touch';
import { DuplicatePairsAndMerges1765497600000 } from './1765497600000-duplicate-pairs-and-merges';
import { FilesAndMemberships1765584000000 } from './1765584000000-files-and-memberships';
import { NameIndexes1765670400000 } from './1765670400000-name-indexes';
import { LinksInMailCopies1765756800000 } from './1765756800000-links-in-mail-copies';
import { SearchWithoutPositions1765843200000 } from './1765843200000-search-without-positions';
import { AnswersToRequests1765929600000 } from './1765929600000-answers-to-requests';
import { ActivitiesInTheLog1766016000000 } from './1766016000000-activities-in-the-log';
import { OpenSteps1766102400000 } from './1766102400000-open-steps';
import { NameOrder1766188800000 } from './1766188800000-name-order';
import { LogCursorsAndCounters1766275200000 } from './1766275200000-log-cursors-and-counters';
import { PlainNames1766361600000 } from './1766361600000-plain-names';
import { ContactSuggestions1766448000000 } from './1766448000000-contact-suggestions';
import { HeadingDecisions1766534400000 } from './1766534400000-heading-decisions';
import { MatchKeys1766620800000 } from './1766620800000-match-keys';
import { FirstAndLastNames1766707200000 } from './1766707200000-first-and-last-names';
import { ImportNotes1766793600000 } from './1766793600000-import-notes';
import { WaysToSignIn1766880000000 } from './1766880000000-ways-to-sign-in';
import { SettingsAsRecords1766966400000 } from './1766966400000-settings-as-records';
import { RolesAsRecords1767052800000 } from './1767052800000-roles-as-records';
import { TerritoriesAndRetention1767139200000 } from './1767139200000-territories-and-retention';
import { CalendarAndProfiles1767225600000 } from './1767225600000-calendar-and-profiles';
import { RetiredStages1767312000000 } from './1767312000000-retired-stages';
import { ClosingDeals1767398400000 } from './1767398400000-closing-deals';
import { DealContacts1767484800000 } from './1767484800000-deal-contacts';
import { Guides1767571200000 } from './1767571200000-guides';
import { DealLines1767657600000 } from './1767657600000-deal-lines';
import { LeadGuides1767744000000 } from './1767744000000-lead-guides';
import { UpkeepIndexes1767830400000 } from './1767830400000-upkeep-indexes';
import { Timers1767916800000 } from './1767916800000-timers';
import { OwnChoices1768003200000 } from './1768003200000-own-choices';
import { Calls1768089600000 } from './1768089600000-calls';
import { SharedTasks1768176000000 } from './1768176000000-shared-tasks';
import { ActivityCounts1768262400000 } from './1768262400000-activity-counts';
import { NoteLinks1768348800000 } from './1768348800000-note-links';
import { Reports1768435200000 } from './1768435200000-reports';
import { Past1768521600000 } from './1768521600000-past';
import { StageStays1768608000000 } from './1768608000000-stage-stays';
import { LetGo1768694400000 } from './1768694400000-let-go';
import { SharedWithTeams1768780800000 } from './1768780800000-shared-with-teams';
import { DayEnds1768867200000 } from './1768867200000-day-ends';
import { HowItChanged1768953600000 } from './1768953600000-how-it-changed';
import { Words1769212800000 } from './1769212800000-words';
import { Snapshots1769299200000 } from './1769299200000-snapshots';
import { Decisions1769385600000 } from './1769385600000-decisions';
import { LinksExchanged1769472000000 } from './1769472000000-links-exchanged';
import { ReportsOfSchedules1769558400000 } from './1769558400000-reports-of-schedules';
import { ReportIndexes1769644800000 } from './1769644800000-report-indexes';
import { CoveringIndexes1769731200000 } from './1769731200000-covering-indexes';
import { Dashboards1769126400000 } from './1769126400000-dashboards';
import { MeasuredStays1769040000000 } from './1769040000000-measured-stays';

/** Every migration, oldest first. Databases remember each by its `name`, which therefore never changes. */
export const migrations = [
  Foundation1763856000000,
  ViewsListsAndCustomFields1764201600000,
  Imports1764806400000,
  Notices1764892800000,
  AssignmentRules1764979200000,
  Tokens1765065600000,
  ActivitiesInSearch1765152000000,
  FormsAndCaptureAddresses1765238400000,
  ChoiceLists1765324800000,
  QualificationAndTouch1765411200000,
  DuplicatePairsAndMerges1765497600000,
  FilesAndMemberships1765584000000,
  NameIndexes1765670400000,
  LinksInMailCopies1765756800000,
  SearchWithoutPositions1765843200000,
  AnswersToRequests1765929600000,
  ActivitiesInTheLog1766016000000,
  OpenSteps1766102400000,
  NameOrder1766188800000,
  LogCursorsAndCounters1766275200000,
  PlainNames1766361600000,
  ContactSuggestions1766448000000,
  HeadingDecisions1766534400000,
  MatchKeys1766620800000,
  FirstAndLastNames1766707200000,
  ImportNotes1766793600000,
  WaysToSignIn1766880000000,
  SettingsAsRecords1766966400000,
  RolesAsRecords1767052800000,
  TerritoriesAndRetention1767139200000,
  CalendarAndProfiles1767225600000,
  RetiredStages1767312000000,
  ClosingDeals1767398400000,
  DealContacts1767484800000,
  Guides1767571200000,
  DealLines1767657600000,
  LeadGuides1767744000000,
  UpkeepIndexes1767830400000,
  Timers1767916800000,
  OwnChoices1768003200000,
  Calls1768089600000,
  SharedTasks1768176000000,
  ActivityCounts1768262400000,
  NoteLinks1768348800000,
  Reports1768435200000,
  Past1768521600000,
  StageStays1768608000000,
  LetGo1768694400000,
  SharedWithTeams1768780800000,
  DayEnds1768867200000,
  HowItChanged1768953600000,
  MeasuredStays1769040000000,
  Dashboards1769126400000,
  Words1769212800000,
  Snapshots1769299200000,
  Decisions1769385600000,
  LinksExchanged1769472000000,
  ReportsOfSchedules1769558400000,
  ReportIndexes1769644800000,
  CoveringIndexes1769731200000,
];

import { Global, Module, type DynamicModule } from '@nestjs/common';
import { Bin } from './bin/bin';
import { BinController } from './bin/bin.controller';
import { ChangeQueue } from './changes/change-queue';
import { ChangesController } from './changes/changes.controller';
import { FilesController } from './files/files.controller';
import { FileTimeline } from './files/file-timeline';
import { KeptFiles } from './files/kept-files';
import { Jobs } from './jobs/jobs';
import { JobsController } from './jobs/jobs.controller';
import { KeepingDayEnds } from './jobs/keeping-day-ends';
import { NightlyJobs } from './jobs/nightly-jobs';
import { NoteTimeline } from './notes/note-timeline';
import { Notices } from './notices/notices';
import { NoticesController } from './notices/notices.controller';
import { OpenApiController } from './openapi/openapi.controller';
import { FirstRunController } from './organisation/first-run.controller';
import { Organisation } from './organisation/organisation';
import { PreferencesController } from './organisation/preferences.controller';
import { PreferenceStore } from './organisation/preferences';
import { ProfileController } from './organisation/profile.controller';
import { SessionData } from './organisation/session-data';
import { DayEnds } from './questions/day-ends';
import { Gate } from './questions/gate';
import { Questions } from './questions/questions';
import { QuestionsController } from './questions/questions.controller';
import { type Derivation } from './records/derivation';
import { DERIVATIONS, Door, RECORD_HOOKS } from './records/door';
import { type RecordHooks } from './records/record-hooks';
import { RecordsController } from './records/records.controller';
import { Undo } from './records/undo';
import { UndoController } from './records/undo.controller';
import { Search } from './search/search';
import { SearchController } from './search/search.controller';
import { SearchIndex } from './search/search-index';
import { AccessOverview } from './sessions/access-overview';
import { KnownBrowsers } from './sessions/known-browsers';
import { OwnAccessController } from './sessions/own-access.controller';
import { PasswordLinks } from './sessions/password-links';
import { PasswordLinksController } from './sessions/password-links.controller';
import { Passwords } from './sessions/passwords';
import { SecondSteps } from './sessions/second-steps';
import { SessionController } from './sessions/session.controller';
import { Sessions } from './sessions/sessions';
import { SignInTries } from './sessions/sign-in-tries';
import { Timers } from './timers/timers';
import { ChangeTimeline } from './timeline/change-timeline';
import { TimelineController } from './timeline/timeline.controller';
import { ListMembers } from './views/list-members';
import { UsageController } from './views/usage.controller';
import { Usages } from './views/usages';

const services = [
  Organisation,
  SessionData,
  PreferenceStore,
  DayEnds,
  KeepingDayEnds,
  Gate,
  Questions,
  Door,
  Undo,
  SearchIndex,
  Search,
  ListMembers,
  Usages,
  Jobs,
  NightlyJobs,
  ChangeQueue,
  Timers,
  Notices,
  KeptFiles,
  Bin,
  Sessions,
  SignInTries,
  KnownBrowsers,
  Passwords,
  PasswordLinks,
  SecondSteps,
  AccessOverview,
];

/** What every feature stands on: reading and writing records of any kind, and what goes with that. */
@Global()
@Module({})
export class KernelModule {
  static with(hooks: readonly RecordHooks[], derivations: readonly Derivation[]): DynamicModule {
    return {
      module: KernelModule,
      controllers: [
        SessionController,
        OwnAccessController,
        PasswordLinksController,
        FirstRunController,
        PreferencesController,
        ProfileController,
        QuestionsController,
        SearchController,
        JobsController,
        BinController,
        UsageController,
        UndoController,
        ChangesController,
        NoticesController,
        OpenApiController,
        FilesController,
        TimelineController,
      ],
      providers: [
        { provide: RECORD_HOOKS, useValue: hooks },
        { provide: DERIVATIONS, useValue: derivations },
        FileTimeline,
        NoteTimeline,
        ChangeTimeline,
        ...services,
      ],
      exports: services,
    };
  }
}

/** The routes that answer any noun of the catalogue: they come after those with a name of their own. */
@Module({ controllers: [RecordsController] })
export class AnyRecordModule {}

import { type DynamicModule, Module } from '@nestjs/common';
import { APP_FILTER, APP_GUARD } from '@nestjs/core';
import { ThrottlerModule } from '@nestjs/throttler';
import { LoggerModule } from 'nestjs-pino';
import { ActivitiesController } from './features/activities/activities.controller';
import { Assignment } from './features/assignment/assignment';
import { AssignmentController } from './features/assignment/assignment.controller';
import { BinController } from './kernel/bin/bin.controller';
import { Bin } from './kernel/bin/bin';
import { Bulk } from './features/bulk/bulk';
import { BulkController } from './features/bulk/bulk.controller';
import { ExportsController } from './features/exports/exports.controller';
import { Duplicates } from './features/duplicates/duplicates';
import { DuplicatesController } from './features/duplicates/duplicates.controller';
import { Merging } from './features/duplicates/merging';
import { Exports } from './features/exports/exports';
import { Jobs } from './kernel/jobs/jobs';
import { JobsController } from './kernel/jobs/jobs.controller';
import { Capture } from './features/capture/capture';
import { LeadsController } from './features/capture/leads.controller';
import { ChangesController } from './kernel/changes/changes.controller';
import { CONFIG } from './platform/config/tokens';
import { Clock } from './platform/clock/clock';
import { type Config } from './platform/config/config';
import { type Connections } from './platform/database/data-source';
import { Database } from './platform/database/database';
import { DealGridController } from './features/deals/deal-grid.controller';
import { DealsController } from './features/deals/deals.controller';
import { Events } from './platform/events/events';
import { EventsController } from './platform/events/events.controller';
import { ProgressController } from './features/forecast/progress.controller';
import { Forms } from './features/forms/forms';
import { PageKeys } from './features/forms/page-keys';
import { PublishedController } from './features/forms/published.controller';
import { SubmissionsController } from './features/forms/submissions.controller';
import { HealthController } from './platform/http/health.controller';
import { BodyGuard } from './platform/http/body.guard';
import { QueryGuard } from './platform/http/query.guard';
import { ProblemFilter } from './platform/http/problem-filter';
import { loggingOptions } from './platform/http/logging';
import { ImportDesk } from './features/imports/import-desk';
import { ImportFiles } from './features/imports/import-files';
import { ImportWork } from './features/imports/import-work';
import { Imports } from './features/imports/imports';
import { ImportsController } from './features/imports/imports.controller';
import { Conversion } from './features/leads/conversion';
import { QualifyingController } from './features/leads/qualifying.controller';
import { GroupController } from './features/people/group.controller';
import { TouchController } from './features/people/touch.controller';
import { ConversionController } from './features/leads/conversion.controller';
import { FirstRunController } from './kernel/organisation/first-run.controller';
import { TagsController } from './features/setup/tags.controller';
import { DetailsController } from './features/mail/details.controller';
import { FilesController } from './kernel/files/files.controller';
import { KeptFiles } from './kernel/files/kept-files';
import { MailIn } from './features/mail/mail-in';
import { MailReader } from './features/mail/mail-reader';
import { MailStandIn } from './features/mail/mail-stand-in';
import { MailsController } from './features/mail/mails.controller';
import { Outbox } from './features/mail/outbox';
import { Notices } from './kernel/notices/notices';
import { NoticesController } from './kernel/notices/notices.controller';
import { OpenApiController } from './kernel/openapi/openapi.controller';
import { Organisation } from './kernel/organisation/organisation';
import { Setting } from './kernel/organisation/setting';
import { PreferencesController } from './kernel/organisation/preferences.controller';
import { PreferenceStore } from './kernel/organisation/preferences';
import { AlikeFinder } from './features/matching/alike';
import { Gate } from './kernel/questions/gate';
import { Questions } from './kernel/questions/questions';
import { QuestionsController } from './kernel/questions/questions.controller';
import { DERIVATIONS, Door, MEANINGS } from './kernel/records/door';
import { derivations } from './kernel/records/derivations';
import { meanings } from './kernel/records/meanings';
import { CHORES, Night, type Chore } from './kernel/records/night';
import { mergeKinds } from '@zawn/core';
import { RecordsController } from './kernel/records/records.controller';
import { Undo } from './kernel/records/undo';
import { UndoController } from './kernel/records/undo.controller';
import { Search } from './kernel/search/search';
import { SearchController } from './kernel/search/search.controller';
import { SearchIndex } from './kernel/search/search-index';
import { SessionController } from './platform/sessions/session.controller';
import { SessionGuard } from './platform/sessions/session.guard';
import { Sessions } from './platform/sessions/sessions';
import { KnownBrowsers } from './platform/sessions/known-browsers';
import { SignInTries } from './platform/sessions/sign-in-tries';
import { MailboxController } from './stand-ins/mailbox.controller';
import { WebsiteController } from './stand-ins/website.controller';
import { ListMembers } from './kernel/views/list-members';
import { UsageController } from './kernel/views/usage.controller';
import { Tokens } from './features/tokens/tokens';
import { TokensController } from './features/tokens/tokens.controller';
import { TimelineController } from './kernel/timeline/timeline.controller';

/** What a route that limits callers lets one address do within a minute unless it says otherwise. */
const A_MINUTE = { ttl: 60_000, limit: 12 };

@Module({})
export class AppModule {
  /** The whole server around an open database. */
  static with(config: Config, connections: Connections): DynamicModule {
    return {
      module: AppModule,
      imports: [LoggerModule.forRoot(loggingOptions()), ThrottlerModule.forRoot([A_MINUTE])],
      controllers: [
        HealthController,
        SessionController,
        FirstRunController,
        EventsController,
        QuestionsController,
        SearchController,
        ImportsController,
        BulkController,
        JobsController,
        BinController,
        ExportsController,
        PreferencesController,
        UsageController,
        UndoController,
        ChangesController,
        NoticesController,
        AssignmentController,
        TokensController,
        LeadsController,
        PublishedController,
        SubmissionsController,
        WebsiteController,
        MailsController,
        MailboxController,
        OpenApiController,
        ConversionController,
        FilesController,
        DetailsController,
        TagsController,
        QualifyingController,
        TouchController,
        GroupController,
        DuplicatesController,
        DealGridController,
        ProgressController,
        DealsController,
        ActivitiesController,
        TimelineController,
        // Answers any noun of the catalogue, so it comes after those with a name of their own.
        RecordsController,
      ],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: Clock, useValue: new Clock(config.today) },
        { provide: Database, useFactory: () => new Database(connections, config.reading) },
        { provide: MEANINGS, useValue: meanings },
        { provide: DERIVATIONS, useValue: derivations },
        {
          provide: CHORES,
          inject: [Duplicates],
          useFactory: (duplicates: Duplicates): Chore[] =>
            mergeKinds.map((kind) => ({
              name: `pairs of ${kind}s`,
              work: () => duplicates.lookByNight(kind),
            })),
        },
        { provide: APP_GUARD, useClass: SessionGuard },
        { provide: APP_GUARD, useClass: BodyGuard },
        { provide: APP_GUARD, useClass: QueryGuard },
        { provide: APP_FILTER, useClass: ProblemFilter },
        Organisation,
        Setting,
        Gate,
        Door,
        Undo,
        Night,
        Events,
        SearchIndex,
        Sessions,
        SignInTries,
        KnownBrowsers,
        Conversion,
        ImportDesk,
        ImportFiles,
        ImportWork,
        Imports,
        Notices,
        Assignment,
        AlikeFinder,
        Duplicates,
        Merging,
        Capture,
        PageKeys,
        Forms,
        KeptFiles,
        MailIn,
        MailReader,
        MailStandIn,
        Outbox,
        Tokens,
        Questions,
        PreferenceStore,
        ListMembers,
        Jobs,
        Bulk,
        Bin,
        Exports,
        Search,
      ],
    };
  }
}

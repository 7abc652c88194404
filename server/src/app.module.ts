import { type DynamicModule, Module } from '@nestjs/common';
import { APP_FILTER, APP_GUARD } from '@nestjs/core';
import { ThrottlerModule } from '@nestjs/throttler';
import { LoggerModule } from 'nestjs-pino';
import { ActivitiesController } from './activities/activities.controller';
import { Assignment } from './assignment/assignment';
import { AssignmentController } from './assignment/assignment.controller';
import { BinController } from './bin/bin.controller';
import { Bin } from './bin/bin';
import { Bulk } from './bulk/bulk';
import { BulkController } from './bulk/bulk.controller';
import { ExportsController } from './exports/exports.controller';
import { Duplicates } from './duplicates/duplicates';
import { DuplicatesController } from './duplicates/duplicates.controller';
import { Merging } from './duplicates/merging';
import { Exports } from './exports/exports';
import { Jobs } from './jobs/jobs';
import { JobsController } from './jobs/jobs.controller';
import { Capture } from './capture/capture';
import { LeadsController } from './capture/leads.controller';
import { ChangesController } from './changes/changes.controller';
import { CONFIG } from './app.tokens';
import { Clock } from './clock/clock';
import { type Config } from './config';
import { type Connections } from './database/data-source';
import { Database } from './database/database';
import { DealGridController } from './deals/deal-grid.controller';
import { DealsController } from './deals/deals.controller';
import { Events } from './events/events';
import { EventsController } from './events/events.controller';
import { ProgressController } from './forecast/progress.controller';
import { Forms } from './forms/forms';
import { PageKeys } from './forms/page-keys';
import { PublishedController } from './forms/published.controller';
import { SubmissionsController } from './forms/submissions.controller';
import { HealthController } from './health.controller';
import { BodyGuard } from './http/body.guard';
import { QueryGuard } from './http/query.guard';
import { ProblemFilter } from './http/problem-filter';
import { loggingOptions } from './http/logging';
import { ImportDesk } from './imports/import-desk';
import { ImportFiles } from './imports/import-files';
import { ImportWork } from './imports/import-work';
import { Imports } from './imports/imports';
import { ImportsController } from './imports/imports.controller';
import { Conversion } from './leads/conversion';
import { QualifyingController } from './leads/qualifying.controller';
import { GroupController } from './people/group.controller';
import { TouchController } from './people/touch.controller';
import { ConversionController } from './leads/conversion.controller';
import { FirstRunController } from './organisation/first-run.controller';
import { TagsController } from './setup/tags.controller';
import { DetailsController } from './mail/details.controller';
import { FilesController } from './files/files.controller';
import { KeptFiles } from './files/kept-files';
import { MailIn } from './mail/mail-in';
import { MailReader } from './mail/mail-reader';
import { MailStandIn } from './mail/mail-stand-in';
import { MailsController } from './mail/mails.controller';
import { Outbox } from './mail/outbox';
import { Notices } from './notices/notices';
import { NoticesController } from './notices/notices.controller';
import { OpenApiController } from './openapi/openapi.controller';
import { Organisation } from './organisation/organisation';
import { Setting } from './organisation/setting';
import { PreferencesController } from './organisation/preferences.controller';
import { PreferenceStore } from './organisation/preferences';
import { AlikeFinder } from './matching/alike';
import { Gate } from './questions/gate';
import { Questions } from './questions/questions';
import { QuestionsController } from './questions/questions.controller';
import { DERIVATIONS, Door, MEANINGS } from './records/door';
import { derivations } from './records/derivations';
import { meanings } from './records/meanings';
import { CHORES, Night, type Chore } from './records/night';
import { mergeKinds } from '@zawn/core';
import { RecordsController } from './records/records.controller';
import { Undo } from './records/undo';
import { UndoController } from './records/undo.controller';
import { Search } from './search/search';
import { SearchController } from './search/search.controller';
import { SearchIndex } from './search/search-index';
import { SessionController } from './sessions/session.controller';
import { SessionGuard } from './sessions/session.guard';
import { Sessions } from './sessions/sessions';
import { KnownBrowsers } from './sessions/known-browsers';
import { SignInTries } from './sessions/sign-in-tries';
import { MailboxController } from './stand-ins/mailbox.controller';
import { WebsiteController } from './stand-ins/website.controller';
import { ListMembers } from './views/list-members';
import { UsageController } from './views/usage.controller';
import { Tokens } from './tokens/tokens';
import { TokensController } from './tokens/tokens.controller';
import { TimelineController } from './timeline/timeline.controller';

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

import { ActivitiesModule } from './activities/activities.module';
import { AskingModule } from './asking/asking.module';
import { AssignmentModule } from './assignment/assignment.module';
import { BulkModule } from './bulk/bulk.module';
import { CallsModule } from './calls/calls.module';
import { CaptureModule } from './capture/capture.module';
import { DashboardsModule } from './dashboards/dashboards.module';
import { DealsModule } from './deals/deals.module';
import { DuplicatesModule } from './duplicates/duplicates.module';
import { ExportsModule } from './exports/exports.module';
import { ForecastModule } from './forecast/forecast.module';
import { FormsModule } from './forms/forms.module';
import { GuidesModule } from './guides/guides.module';
import { ImportsModule } from './imports/imports.module';
import { LeadsModule } from './leads/leads.module';
import { MailModule } from './mail/mail.module';
import { MatchingModule } from './matching/matching.module';
import { OrganisationModule } from './organisation/organisation.module';
import { PeopleModule } from './people/people.module';
import { DemoBesideModule } from './demo-beside/demo-beside.module';
import { ReportsModule } from './reports/reports.module';
import { PacksModule } from './packs/packs.module';
import { SnapshotsModule } from './snapshots/snapshots.module';
import { SafeKeepingModule } from './safe-keeping/safe-keeping.module';
import { SetupModule } from './setup/setup.module';
import { TokensModule } from './tokens/tokens.module';
import { UpkeepModule } from './upkeep/upkeep.module';

/** The modules of all features; a new one joins here. */
export const featureModules = [
  ActivitiesModule,
  AskingModule,
  AssignmentModule,
  BulkModule,
  CallsModule,
  CaptureModule,
  DashboardsModule,
  DealsModule,
  DuplicatesModule,
  ExportsModule,
  ForecastModule,
  FormsModule,
  GuidesModule,
  ImportsModule,
  LeadsModule,
  MailModule,
  MatchingModule,
  OrganisationModule,
  PeopleModule,
  ReportsModule,
  SafeKeepingModule,
  PacksModule,
  SnapshotsModule,
  DemoBesideModule,
  SetupModule,
  TokensModule,
  UpkeepModule,
] as const;

import { activityHooks } from './activities/activity-hooks';
import { activityLinkHooks } from './activities/activity-link-hooks';
import { assignmentRuleHooks } from './assignment/rule-hooks';
import { intoTerritory, territoryHooks } from './assignment/territory-hooks';
import { callListHooks } from './calls/call-list-hooks';
import { dealContactHooks } from './deals/deal-contact-hooks';
import { dealHooks } from './deals/deal-hooks';
import { dealLineHooks } from './deals/deal-line-hooks';
import { dealValueHooks } from './deals/deal-value';
import { guidedAccountHooks } from './deals/guided-account-hooks';
import { renewalHooks } from './deals/renewals';
import { pipelineHooks, pipelineTeamHooks, stageHooks } from './deals/stage-hooks';
import { fileHooks } from '../kernel/files/file-hooks';
import { targetHooks } from './forecast/target-hooks';
import { formHooks } from './forms/form-hooks';
import { guideItemHooks, guideTickHooks } from './guides/guide-hooks';
import { carryOverHooks } from './leads/carry-over-hooks';
import { leadHooks } from './leads/lead-hooks';
import { scoreRuleHooks } from './leads/score-rule-hooks';
import { captureAddressHooks, mailHooks } from './mail/mail-hooks';
import { noteHooks } from '../kernel/notes/note-hooks';
import {
  currencyFormatHooks,
  holidayHooks,
  organisationHooks,
  rateHooks,
} from './organisation/organisation-hooks';
import { accountHooks } from './people/account-hooks';
import { personHooks } from './people/person-hooks';
import { contactHooks } from './people/contact-hooks';
import { namedByRoles, roleGrantHooks, roleHooks } from './people/role-hooks';
import { shareHooks } from './people/share-hooks';
import { teamHooks, teamMemberHooks } from './people/team-hooks';
import { membershipHooks } from './people/membership-hooks';
import { productHooks } from './products/product-hooks';
import { dashboardHooks } from './dashboards/dashboard-hooks';
import { reportHooks } from './reports/report-hooks';
import { packHooks } from './packs/pack-hooks';
import { folderHooks, snapshotHooks, snapshotPlanHooks } from './snapshots/snapshot-hooks';
import { choiceListHooks } from './setup/choice-hooks';
import { customFieldHooks } from './setup/custom-field-hooks';
import { quickAddHooks } from './setup/quick-add-hooks';
import { tagHooks } from './setup/tag-hooks';
import { upkeepCheckHooks } from './upkeep/check-hooks';
import { listHooks, viewHooks } from '../kernel/views/view-hooks';
import { type RecordHooks } from '../kernel/records/record-hooks';

/** What features add to the writing of their objects; a new one joins here. */
export const recordHooks: readonly RecordHooks[] = [
  leadHooks,
  scoreRuleHooks,
  reportHooks,
  dashboardHooks,
  packHooks,
  folderHooks,
  snapshotHooks,
  snapshotPlanHooks,
  carryOverHooks,
  accountHooks,
  guidedAccountHooks,
  personHooks,
  teamHooks,
  roleHooks,
  roleGrantHooks,
  shareHooks,
  ...namedByRoles,
  organisationHooks,
  rateHooks,
  holidayHooks,
  currencyFormatHooks,
  dealHooks,
  dealValueHooks,
  renewalHooks,
  dealLineHooks,
  dealContactHooks,
  guideItemHooks,
  guideTickHooks,
  stageHooks,
  pipelineHooks,
  pipelineTeamHooks,
  productHooks,
  activityHooks,
  activityLinkHooks,
  noteHooks,
  fileHooks,
  contactHooks,
  membershipHooks,
  viewHooks,
  listHooks,
  callListHooks,
  customFieldHooks,
  choiceListHooks,
  tagHooks,
  quickAddHooks,
  assignmentRuleHooks,
  territoryHooks,
  ...intoTerritory,
  teamMemberHooks,
  targetHooks,
  upkeepCheckHooks,
  formHooks,
  captureAddressHooks,
  mailHooks,
];

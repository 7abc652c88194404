import { loggedChangeOf } from '../changes/objects';
import { activity, activityLink, checklistItem, recordingRemark } from '../../features/activities/objects';
import { assignmentRule, territory } from '../../features/assignment/objects';
import { callList } from '../../features/calls/objects';
import {
  deal,
  dealContact,
  dealLine,
  pipeline,
  pipelineTeam,
  stage,
  stageStay,
} from '../../features/deals/objects';
import { target } from '../../features/forecast/objects';
import { form } from '../../features/forms/objects';
import { guideItem, guideTick } from '../../features/guides/objects';
import { lead, carryOver, scoreRule } from '../../features/leads/objects';
import { mail, contactSuggestion, captureAddress } from '../../features/mail/objects';
import { contact, account, membership } from '../../features/people/objects';
import { product } from '../../features/products/objects';
import { customField, choiceList, quickAdd, tag } from '../../features/setup/objects';
import { dashboard } from '../../features/dashboards/objects';
import { pack } from '../../features/packs/objects';
import { folder, snapshot, snapshotPlan } from '../../features/snapshots/objects';
import { report } from '../../features/reports/objects';
import { upkeepCheck } from '../../features/upkeep/objects';
import { file } from '../files/objects';
import { note } from '../notes/objects';
import {
  currencyFormat,
  holiday,
  organisation,
  person,
  rate,
  role,
  roleGrant,
  share,
  team,
  teamMember,
} from '../organisation/objects';
import { view, list } from '../views/objects';
/**
 * Every object there is, in the order they are named in: each feature describes its own, and this is the one list
 * that a new one joins.
 */
const described = {
  lead,
  contact,
  account,
  deal,
  activity,
  checklistItem,
  activityLink,
  recordingRemark,
  file,
  contactSuggestion,
  membership,
  dealContact,
  dealLine,
  guideItem,
  guideTick,
  note,
  mail,
  share,
  pipeline,
  pipelineTeam,
  stage,
  stageStay,
  product,
  team,
  teamMember,
  person,
  role,
  roleGrant,
  organisation,
  rate,
  holiday,
  currencyFormat,
  view,
  list,
  callList,
  report,
  dashboard,
  folder,
  snapshot,
  snapshotPlan,
  pack,
  customField,
  choiceList,
  scoreRule,
  quickAdd,
  tag,
  carryOver,
  assignmentRule,
  territory,
  form,
  captureAddress,
  upkeepCheck,
  target,
} as const;

export const objects = { ...described, loggedChange: loggedChangeOf(described) } as const;

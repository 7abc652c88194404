import { activityMeaning } from '../../features/activities/activity-meaning';
import { assignmentRuleMeaning } from '../../features/assignment/rule-meaning';
import { dealMeaning } from '../../features/deals/deal-meaning';
import { fileMeaning } from '../files/file-meaning';
import { formMeaning } from '../../features/forms/form-meaning';
import { carryOverMeaning } from '../../features/leads/carry-over-meaning';
import { leadMeaning } from '../../features/leads/lead-meaning';
import { scoreRuleMeaning } from '../../features/leads/score-rule-meaning';
import { captureAddressMeaning, mailMeaning } from '../../features/mail/mail-meaning';
import { noteMeaning } from '../../features/notes/note-meaning';
import { accountMeaning } from '../../features/people/account-meaning';
import { personMeaning } from '../../features/people/person-meaning';
import { membershipMeaning } from '../../features/people/membership-meaning';
import { choiceListMeaning } from '../../features/setup/choice-meaning';
import { customFieldMeaning } from '../../features/setup/custom-field-meaning';
import { quickAddMeaning } from '../../features/setup/quick-add-meaning';
import { tagMeaning } from '../../features/setup/tag-meaning';
import { listMeaning, viewMeaning } from '../views/view-meaning';
import { type Meaning } from './meaning';

/** What features add to the writing of their objects. */
export const meanings: readonly Meaning[] = [
  leadMeaning,
  scoreRuleMeaning,
  carryOverMeaning,
  accountMeaning,
  personMeaning,
  dealMeaning,
  activityMeaning,
  noteMeaning,
  fileMeaning,
  membershipMeaning,
  viewMeaning,
  listMeaning,
  customFieldMeaning,
  choiceListMeaning,
  tagMeaning,
  quickAddMeaning,
  assignmentRuleMeaning,
  formMeaning,
  captureAddressMeaning,
  mailMeaning,
];

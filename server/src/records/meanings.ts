import { activityMeaning } from '../activities/activity-meaning';
import { assignmentRuleMeaning } from '../assignment/rule-meaning';
import { dealMeaning } from '../deals/deal-meaning';
import { fileMeaning } from '../files/file-meaning';
import { formMeaning } from '../forms/form-meaning';
import { carryOverMeaning } from '../leads/carry-over-meaning';
import { leadMeaning } from '../leads/lead-meaning';
import { scoreRuleMeaning } from '../leads/score-rule-meaning';
import { captureAddressMeaning, mailMeaning } from '../mail/mail-meaning';
import { noteMeaning } from '../notes/note-meaning';
import { accountMeaning } from '../people/account-meaning';
import { personMeaning } from '../people/person-meaning';
import { membershipMeaning } from '../people/membership-meaning';
import { choiceListMeaning } from '../setup/choice-meaning';
import { customFieldMeaning } from '../setup/custom-field-meaning';
import { quickAddMeaning } from '../setup/quick-add-meaning';
import { tagMeaning } from '../setup/tag-meaning';
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

import { access } from './access';
import { activities } from './activities';
import { activityBoard } from './activity-board';
import { assignment } from './assignment';
import { bulk } from './bulk';
import { calls } from './calls';
import { competitors } from './competitors';
import { dashboards } from './dashboards';
import { deals, pipelines } from './deals';
import { duplicates } from './duplicates';
import { forms } from './forms';
import { imports } from './imports';
import { leads } from './leads';
import { mail } from './mail';
import { organisation } from './organisation';
import { people } from './people';
import { products } from './products';
import { reports } from './reports';
import { safeKeeping } from './safe-keeping';
import { packs } from './packs';
import { setup } from './setup';
import { snapshots } from './snapshots';
import { team } from './team';
import { tokens } from './tokens';
import { upkeep } from './upkeep';
import { housekeeping } from '../kernel/shell/housekeeping';
import { records } from '../kernel/shell/records';
import { type Feature } from '../kernel/shell/feature';

/** Every feature in the order in which what they bring is shown; a new one joins here. */
export const features: readonly Feature[] = [
  records,
  activities,
  calls,
  leads,
  forms,
  imports,
  people,
  deals,
  team,
  reports,
  dashboards,
  snapshots,
  packs,
  activityBoard,
  competitors,
  upkeep,
  duplicates,
  organisation,
  access,
  pipelines,
  products,
  assignment,
  setup,
  safeKeeping,
  mail,
  bulk,
  tokens,
  housekeeping,
];

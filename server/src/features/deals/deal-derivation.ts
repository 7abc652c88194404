import { IsNull, type EntityManager } from 'typeorm';
import {
  DECIDES,
  guideProgress,
  systemActor,
  type AnyRecord,
  type GuideFacts,
  type GuideProgress,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { writeDerived, type Derivation, type Deriving } from '../../kernel/records/derivation';
import { latest } from '../people/touches';
import { keepStaysMeasured } from './measured-stays';
import { ACCOUNT, guidesInUse, heldBy, WAS_DONE, type Guide } from '../guides/guides';

/** What is derived of a deal, as it is kept. */
interface Kept {
  id: number;
  pipeline: number;
  outcome: string;
  lastTouchAt: string | null;
  deciderNamed: 0 | 1 | null;
  guideOpen: number | null;
  guideDone: number | null;
}

const COLUMNS = [
  'id',
  'pipeline',
  'outcome',
  'lastTouchAt',
  'deciderNamed',
  'guideOpen',
  'guideDone',
] as const satisfies (keyof Kept)[];

const NOTHING_ASKED: GuideProgress = { open: 0, done: null };

/** The accounts of some deals, as far as a guide asks about them. */
async function accountsOf({ manager, gate }: Deriving, deals: Iterable<AnyRecord>, guides: readonly Guide[]) {
  if (!guides.some(({ items }) => items.some(({ field }) => field?.startsWith(ACCOUNT))))
    return new Map<number, AnyRecord>();
  const ids = [...new Set([...deals].flatMap(({ account }) => (account === null ? [] : [Number(account)])))];
  return gate.visible(systemActor, 'account', ids, manager);
}

/** How far open deals are with their guides; nothing for those of which nothing is asked. */
async function progressOf(
  at: Deriving,
  open: readonly Kept[],
  roles: ReadonlyMap<number, ReadonlySet<string>>,
): Promise<Map<number, GuideProgress>> {
  const { manager, gate, catalogue } = at;
  const guides = await guidesInUse(manager);
  const asked = open
    .filter(({ pipeline }) => (guides.get(pipeline)?.items.length ?? 0) > 0)
    .map(({ id }) => id);
  const progress = new Map<number, GuideProgress>();
  if (asked.length === 0) return progress;
  const deals = await gate.visible(systemActor, 'deal', asked, manager);
  const accounts = await accountsOf(at, deals.values(), [...guides.values()]);
  const done = await heldBy<string>(manager, 'activity', 'kind', asked, { where: WAS_DONE });
  const ticked = await heldBy<number>(manager, 'guideTick', 'item', asked);
  const none = new Set<never>();
  for (const deal of deals.values()) {
    const guide = guides.get(Number(deal.pipeline));
    if (!guide) continue;
    const account = accounts.get(Number(deal.account));
    const facts: GuideFacts = {
      valueOf: (path) => (path.startsWith(ACCOUNT) ? account?.[path.slice(ACCOUNT.length)] : deal[path]),
      done: done.get(deal.id) ?? none,
      roles: roles.get(deal.id) ?? none,
      ticked: ticked.get(deal.id) ?? none,
    };
    progress.set(deal.id, guideProgress(guide.items, facts, catalogue, guide.steps, Number(deal.stage)));
  }
  return progress;
}

/** When somebody was last in touch over a deal, whether it is named who decides, how far its guide is, and its stays. */
export const dealDerivation: Derivation = {
  object: 'deal',
  restsOn: ['guideItem', 'stage', 'customField', 'choiceList', 'organisation'],

  async derive(at, ids) {
    const { manager } = at;
    await keepStaysMeasured(manager, ids, at.timeZone);
    const deals = dialect.rows<Kept>(manager, 'deal', COLUMNS, ids);
    const last = await latest(at, 'deal', ids);
    const roles = await heldBy<string>(manager, 'dealContact', 'role', ids);
    const isOpen = ({ outcome }: Kept) => outcome === 'open';
    const progress = await progressOf(at, deals.filter(isOpen), roles);
    for (const deal of deals) {
      const { open, done } = progress.get(deal.id) ?? NOTHING_ASKED;
      const derived = {
        lastTouchAt: last.get(deal.id) ?? null,
        deciderNamed: roles.get(deal.id)?.has(DECIDES) ? 1 : 0,
        // Nothing is asked of what has ended.
        guideOpen: isOpen(deal) ? open : null,
        guideDone: isOpen(deal) ? done : null,
      } as const;
      const isSame = (Object.keys(derived) as (keyof typeof derived)[]).every(
        (key) => deal[key] === derived[key],
      );
      if (!isSame) writeDerived(at, 'deal', deal.id, derived);
    }
  },
};

/** The open deals of an account, of which a guide may ask about it. */
export async function openDealsOf(manager: EntityManager, account: number): Promise<AnyRecord[]> {
  return manager.findBy<AnyRecord>('deal', { account, outcome: 'open', deletedAt: IsNull() });
}

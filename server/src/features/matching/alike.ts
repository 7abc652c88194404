import { Injectable } from '@nestjs/common';
import {
  areAlike,
  matchAccounts,
  matchContacts,
  nameWords,
  policyOf,
  workDomain,
  type Actor,
  type Alike,
  type AnyRecord,
  type Candidate,
  type FieldValue,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import { Gate } from '../../kernel/questions/gate';
import { foundIn, placeOf } from '../../kernel/search/search-index';

/** Records compared by name at most; the index narrows them down first. */
const COMPARED = 120;
/** So many found by more of their words that fewer words need not be tried. */
const ENOUGH = 30;
const SHOWN = 5;
/** The first letters of a word forgive a spelling that differs later in it. */
const LETTERS = 4;
/** Less likely ones are not worth interrupting anyone for. */
const WORTH_SAYING = 0.6;

export type OnFileRecord = AnyRecord & { name: string; email: string | null; domain: string | null };

type Kind = Alike['object'];

/** Words to look for, all of them in one record. */
type Words = string[];

/** First all words together, then all but one: what is nearest is found before there are too many. */
function attempts(words: Words): Words[][] {
  const allButOne = words.map((_, left) => words.filter((__, index) => index !== left));
  return [[words], words.length > 1 ? allButOne : []];
}

/** Finds who or what may be on file already, by index: it takes as long for three hundred thousand as for three. */
@Injectable()
export class AlikeFinder {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
  ) {}

  /** Records within reach that have a name like this one, or hold one of these texts in its field. */
  async near(
    actor: Actor,
    object: Kind,
    name: string,
    keys: Readonly<Record<string, FieldValue | undefined>>,
  ): Promise<OnFileRecord[]> {
    const found = new Map<number, AnyRecord>();
    for (const [field, text] of Object.entries(keys)) {
      if (typeof text !== 'string') continue;
      for (const record of await this.gate.holding(actor, object, field, [text]))
        found.set(record.id, record);
    }
    const ids = (await this.named(actor, object, name)).filter((id) => !found.has(id));
    // Most that share a word are called otherwise: only their names are read.
    const names = await this.gate.namesOf(actor, object, ids);
    const meant = ids.filter((id) => id in names && areAlike(name, names[id]));
    for (const [id, record] of await this.gate.visibleStored(actor, object, meant)) found.set(id, record);
    return [...found.values()] as OnFileRecord[];
  }

  /** Leads, contacts and accounts within reach that may be this one, the likeliest first, with why. */
  async to(actor: Actor, lead: Readonly<Record<string, FieldValue>>, but?: number): Promise<Alike[]> {
    const person = {
      name: String(lead.name),
      email: lead.email as string | null,
      domain: lead.web as string | null,
    };
    const organisation = { ...person, name: (lead.organisation as string | null) ?? '' };
    const domain = person.domain ?? workDomain(person.email);
    const { email } = person;
    const [leads, contacts, accounts] = await Promise.all([
      this.near(actor, 'lead', person.name, { email }),
      this.near(actor, 'contact', person.name, { email }),
      this.near(actor, 'account', organisation.name, { domain }),
    ]);
    const others = leads.filter(({ id, convertedAt }) => id !== but && convertedAt === null);
    return [
      ...named('contact', matchContacts(person, contacts), contacts),
      ...named('lead', matchContacts(person, others), others),
      ...named('account', matchAccounts(organisation, accounts), accounts),
    ]
      .filter(({ likeness }) => likeness >= WORTH_SAYING)
      .sort((a, b) => b.likeness - a.likeness)
      .slice(0, SHOWN)
      .map(({ likeness: _, ...alike }) => alike);
  }

  private async named(actor: Actor, object: Kind, name: string): Promise<number[]> {
    const words = nameWords(name)
      .filter((word) => word.length > 2)
      .map((word) => word.slice(0, LETTERS));
    const ids = new Set<number>();
    const place = placeOf(object);
    for (const attempt of attempts(words)) {
      for (const together of attempt) {
        if (together.length === 0) continue;
        const query = dialect.fullText.query(
          together.map((word) => [word]),
          'title',
          policyOf(actor).ownersAround(object),
        );
        const parameters = [query, place.of, place.at, COMPARED - ids.size];
        const rows = await this.database.reader.few({ sql: dialect.fullText.findKind, parameters });
        for (const { row } of rows) ids.add(foundIn(Number(row)).id);
        if (ids.size >= COMPARED) return [...ids];
      }
      if (ids.size >= ENOUGH) break;
    }
    return [...ids];
  }
}

function named(object: Kind, candidates: readonly Candidate[], records: readonly AnyRecord[]) {
  const byId = new Map(records.map((record) => [record.id, record]));
  return candidates.map(({ id, likeness, reason }) => ({
    object,
    id,
    name: String(byId.get(id)?.name),
    reason,
    likeness,
  }));
}

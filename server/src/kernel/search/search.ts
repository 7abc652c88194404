import { Injectable } from '@nestjs/common';
import {
  objectType,
  policyOf,
  subjectKeys,
  type Actor,
  type AnyRecord,
  type Hit,
  type SubjectKey,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import { Gate } from '../questions/gate';
import { entryOf, foundIn, hangs, searchedKinds, spokenFields, type SearchedKind } from './search-index';
import { isForgiven, isOneErrorApart, plainWord, variantsOf, wordsIn } from './spelling';

const SHOWN = 12;
/** Notes, mails and activities among them: there is a list for all that say the words. */
const MOST_HANGING = 6;
/** Matches weighed at most: of the title, then of anything else, then of what activities say. */
const WEIGHED = { title: 140, anywhere: 80, said: 40 };
/** Matches after which the next part is not looked through: what it holds would stand below them anyway. */
const ENOUGH = { title: 140, anywhere: SHOWN, said: 0 };
const parts = ['title', 'anywhere', 'said'] as const;
/** How much more is weighed where the index cannot tell what is within reach. */
const DEEPER = 20;
/** Spellings tried for one word. */
const MOST_SPELLINGS = 8;

interface Found {
  kind: SearchedKind;
  record: AnyRecord;
}

/** Finds the records that a few typed letters may mean. */
@Injectable()
export class Search {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
  ) {}

  /** The likeliest records first: the exact name, then what begins like it; one's own, then the latest. */
  async find(actor: Actor, text: string): Promise<Hit[]> {
    const words = asPhone(text) ?? withoutLetters(wordsIn(text));
    if (words.length === 0) return [];
    let found = await this.matching(
      actor,
      words.map((word) => [word]),
    );
    if (found.length < SHOWN && words.some(isForgiven)) {
      const spellings = await Promise.all(words.map((word) => this.spellingsOf(word)));
      if (spellings.some((each) => each.length > 1)) {
        const more = await this.matching(actor, spellings);
        const known = new Set(found.map(({ kind, record }) => `${kind} ${record.id}`));
        found = [...found, ...more.filter(({ kind, record }) => !known.has(`${kind} ${record.id}`))];
      }
    }
    const ranked = found
      .map((each, index) => ({ each, index, rank: rankOf(each, text, words, actor) }))
      .sort((a, b) => a.rank - b.rank || a.index - b.index);
    const hanging = ranked.filter(({ each }) => hangs(each.kind)).slice(0, MOST_HANGING);
    const shown = ranked.filter((one) => !hangs(one.each.kind) || hanging.includes(one)).slice(0, SHOWN);
    return this.hits(
      actor,
      shown.map(({ each }) => each),
      words,
    );
  }

  /** Words of the index that are this one but for a typing error, itself first. */
  private async spellingsOf(word: string): Promise<string[]> {
    if (!isForgiven(word)) return [word];
    const variants = variantsOf(word);
    const sql = dialect.fullText.spellings(variants.length);
    const rows = await this.database.reader.few({ sql, parameters: variants });
    const near = rows.map(({ term }) => String(term)).filter((term) => isOneErrorApart(term, word));
    return [word, ...near.filter((term) => term !== word).slice(0, MOST_SPELLINGS)];
  }

  /** Records with all words, those in whose name they stand first, the latest first; within reach only. */
  private async matching(actor: Actor, words: string[][]): Promise<Found[]> {
    const owners = ownersOfFound(actor);
    // Where the index cannot say what is within reach, more is weighed, as much of it may fall away.
    const weighed = owners || seesEverything(actor) ? 1 : DEEPER;
    const rows = new Set<number>();
    for (const within of parts) {
      const query = dialect.fullText.query(words, within, owners);
      const statement = { sql: dialect.fullText.find, parameters: [query, WEIGHED[within] * weighed] };
      for (const { row } of await this.database.reader.many(statement)) rows.add(Number(row));
      if (rows.size >= ENOUGH[within] * weighed) break;
    }
    const visible = await this.visibleOf(actor, [...rows].map(foundIn));
    return [...rows].flatMap((row) => {
      const { kind, id } = foundIn(row);
      const record = visible.get(kind)?.get(id);
      return record && isFoundBySeen(actor, kind, record, words) ? [{ kind, record }] : [];
    });
  }

  private async hits(actor: Actor, found: readonly Found[], words: readonly string[]): Promise<Hit[]> {
    const subjects = await this.visibleOf(
      actor,
      found.flatMap(({ kind, record }) => (hangs(kind) ? (subjectOf(record) ?? []) : [])),
    );
    return found.flatMap(({ kind, record }): Hit[] => {
      if (!hangs(kind)) return [hitOf(kind, record)];
      const said = { kind, text: around(saidIn(kind, record), words) };
      const subject = subjectOf(record);
      const on = subject && subjects.get(subject.kind)?.get(subject.id);
      if (on) return [{ ...hitOf(subject.kind, on), in: said }];
      return kind === 'activity'
        ? [{ object: kind, id: record.id, name: String(record.name), detail: '', in: said }]
        : [];
    });
  }

  /** Those of some records that a person sees. */
  private async visibleOf<K extends SearchedKind>(
    actor: Actor,
    records: readonly { kind: K; id: number }[],
  ): Promise<Map<K, Map<number, AnyRecord>>> {
    const ids = new Map<K, Set<number>>();
    for (const { kind, id } of records) ids.set(kind, (ids.get(kind) ?? new Set()).add(id));
    const visible = new Map<K, Map<number, AnyRecord>>();
    for (const [kind, wanted] of ids)
      visible.set(kind, await this.gate.visibleStored(actor, kind, [...wanted]));
    return visible;
  }
}

/** What a note, an activity or an email hangs on. */
function subjectOf(record: AnyRecord): { kind: SubjectKey; id: number } | undefined {
  const kind = subjectKeys.find((key) => typeof record[key] === 'number');
  return kind && { kind, id: Number(record[kind]) };
}

/** The people one of whom owns whatever somebody can find, as far as that is said of every kind. */
function ownersOfFound(actor: Actor): number[] | undefined {
  const policy = policyOf(actor);
  const owners = searchedKinds.map((kind) => policy.ownersAround(kind));
  const known = owners.filter((some) => some !== undefined);
  return known.length === owners.length ? [...new Set(known.flat())] : undefined;
}

/** Whether a record is found by what the person sees of it: the index knows the fields hidden from them as well. */
function isFoundBySeen(
  actor: Actor,
  kind: SearchedKind,
  record: AnyRecord,
  words: readonly string[][],
): boolean {
  if (policyOf(actor).hidden(kind).size === 0) return true;
  const { title, words: others, said } = entryOf(kind, record);
  const there = wordsIn(`${title} ${others} ${said}`);
  return words.every((spellings) =>
    spellings.some((spelling) => there.some((each) => each.startsWith(spelling))),
  );
}

const seesEverything = (actor: Actor) => searchedKinds.every((kind) => policyOf(actor).scope(kind) === 'all');

/** The text in which something was found that hangs on a record. */
const saidIn = (kind: SearchedKind, record: AnyRecord) =>
  (spokenFields[kind] ?? ['body'])
    .map((field) => record[field])
    .filter(Boolean)
    .join(' · ');

/** A single letter among words says little, and as the beginning of words it would be looked for everywhere. */
function withoutLetters(words: string[]): string[] {
  const longer = words.filter((word) => word.length > 1);
  return longer.length > 0 ? longer : words;
}

/** The digits of a phone number without prefix zeros, when the text looks like one. */
function asPhone(text: string): string[] | undefined {
  if (!/^\+?[\d\s()/.-]{5,}$/.test(text.trim())) return undefined;
  return [text.replace(/\D/g, '').replace(/^0+/, '')];
}

/** Whatever a note, an email or an activity says, a record that is called so stands above it. */
const HANGING_FIT = { note: 4, mail: 5, activity: 5 };

/** How likely a match is meant, lower being likelier. */
function rankOf({ kind, record }: Found, text: string, words: readonly string[], actor: Actor): number {
  const title = hangs(kind) ? '' : plainWord(String(record[objectType(kind).nameField]));
  const typed = plainWord(text.trim());
  const mine = record.owner === actor.personId ? 0 : 1;
  const isClosed = record.outcome === 'won' || record.outcome === 'lost' || record.convertedAt ? 1 : 0;
  const exact =
    title === typed ||
    Object.values(record).some((value) => typeof value === 'string' && plainWord(value) === typed);
  const starts = title.startsWith(typed);
  const inTitle = words.every((word) => title.includes(word));
  const fit = hangs(kind) ? HANGING_FIT[kind] : exact ? 0 : starts ? 1 : inTitle ? 2 : 3;
  return fit * 4 + mine * 2 + isClosed;
}

function hitOf(object: SubjectKey, record: AnyRecord): Hit {
  const details = {
    lead: [record.organisation, record.city],
    contact: [record.role, record.email],
    account: [record.city, record.domain],
    deal: [record.number, record.outcome === 'open' ? null : record.outcome],
  }[object];
  const name = String(record[objectType(object).nameField]);
  return { object, id: record.id, name, detail: details.filter(Boolean).join(' · ') };
}

const BEFORE = 24;
const AFTER = 60;

/** The part of a note around the first of the words. */
function around(body: string, words: readonly string[]): string {
  const plain = plainWord(body);
  const at = Math.max(0, ...words.map((word) => plain.indexOf(word)));
  const from = Math.max(0, at - BEFORE);
  const part = body.slice(from, at + AFTER).replace(/\s+/g, ' ');
  return `${from > 0 ? '…' : ''}${part.trim()}${at + AFTER < body.length ? '…' : ''}`;
}

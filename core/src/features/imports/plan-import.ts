import {
  blankValues,
  fieldOf,
  fieldsOf,
  isSetType,
  objectType,
  type AnyRecord,
  type Field,
  type FieldValue,
} from '../../kernel/catalogue';
import { toMajor, toMinor } from '../../platform/money';
import { dayIn } from '../../platform/time';
import { nameInAddress } from '../mail/name-in-address';
import { completeName } from '../people/person-name';
import { alikeAccount } from './alike-account';
import { alikeKey, nameKey } from './name-key';
import { differingKey, hasKey, keyText, keyValues, recognise, type OnFile } from './recognise';
import {
  type ImportSurroundings,
  type ReadPart,
  type ReadRow,
  type ReadRows,
  type Refusal,
  type Values,
} from './read-rows';
import { matchInWords, matchKeys, type ImportSetup, type MatchKey } from './setup';
import { targetOf, targets, type TargetKey } from './targets';

/** A link to a record on file, or to one that this import makes, by its place among `others`. */
export type PlannedLink = { id: number } | { made: number };

/** One record that the import writes. */
export interface PlannedWrite {
  row: number;
  object: TargetKey;
  does: 'create' | 'update';
  /** The record updated, as it is. */
  known?: AnyRecord;
  /** For an update only what changes. */
  values: Values;
  links: Readonly<Record<string, PlannedLink>>;
  /** By what it was recognised; of a new one, why it may be somebody on file. */
  why?: string;
  /** Whom on file a new record may be: the same name, and something else that differs. */
  maybe?: AnyRecord;
}

/** An account of the file that is taken for one of another spelling, on file or in an earlier row. */
export interface TakenAccount {
  row: number;
  name: string;
  why: string;
  id?: number;
}

/** A row that writes nothing. */
export interface LeftRow {
  row: number;
  reason: string;
  id?: number;
}

/** What an import will do, row by row, before anything is written. Every row is in exactly one of the lists. */
export interface ImportPlan {
  create: PlannedWrite[];
  /** New, although they may be somebody on file: the name is the same, and something else is not. */
  maybe: PlannedWrite[];
  update: PlannedWrite[];
  /** There already, just as the row says. */
  same: LeftRow[];
  /** There already and left alone, or twice in the file. */
  skipped: LeftRow[];
  refused: Refusal[];
  /** Accounts and contacts written beside the main records, before them. */
  others: PlannedWrite[];
  /** Accounts that are taken for another of nearly their name, as was said; each once. */
  taken: TakenAccount[];
  /** Accounts of which it is for a person to say whether they are another of nearly their name, said or not. */
  alike: number;
  /** Cells that could not be read and were left empty, of rows that are not refused. */
  notes: Refusal[];
}

const isSame = (a: FieldValue | undefined, b: FieldValue | undefined) =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Files say times to the minute. */
const isSameMinute = (a: FieldValue | undefined, b: FieldValue | undefined) =>
  typeof a === 'string' && typeof b === 'string' && a.slice(0, 16) === b.slice(0, 16);

/**
 * Decides for every row whether it creates, updates, changes nothing, is skipped or refused, and why. The same
 * import again, once carried out, creates and updates nothing.
 *
 * The rows are used up as they are decided on: a hundred thousand of them need not lie beside the plan.
 */
export function planImport(
  { rows, refused }: ReadRows,
  setup: ImportSetup,
  onFile: OnFile,
  around: ImportSurroundings,
): ImportPlan {
  const { catalogue } = around;
  const target = targetOf(setup.target);
  const plan: ImportPlan = {
    create: [],
    maybe: [],
    update: [],
    same: [],
    skipped: [],
    refused: [...refused],
    others: [],
    taken: [],
    alike: 0,
    notes: [],
  };
  /** The first row with a key, by kind of key and text, to tell rows that repeat each other. */
  const seen = new Map<MatchKey, Map<string, number>>();
  /** Records beside the main ones, by their keys, so that each is made once however many rows name it. */
  const made = new Map<string, number>();

  const hasNames = ['name', 'firstName', 'lastName'].some((path) => setup.columns.includes(path));

  /** What the row would change of a record that is there. */
  const changesOf = (
    { values, blank, object, assumed }: ReadPart,
    known: AnyRecord,
    tags: readonly string[],
  ): Values => {
    const changes: Values = {};
    const wanted: Values = { ...values };
    for (const key of assumed) keepCurrency(fieldsOf(catalogue, object), wanted, known, key);
    if (tags.length > 0) wanted.tags = [...tags, ...((values.tags as string[] | undefined) ?? [])];
    for (const [key, value] of Object.entries(wanted)) {
      const field = fieldOf(catalogue, object, key);
      const next =
        field && isSetType(field.type) && (setup.several === 'add' || (key === 'tags' && !(key in values)))
          ? union(known[key], value)
          : value;
      const isTime = field?.type === 'dateTime' && isSameMinute(next, known[key]);
      if (!isTime && !isSame(next, known[key])) changes[key] = next;
    }
    if (setup.blanks === 'clear')
      for (const key of blank)
        if (!fieldOf(catalogue, object, key)?.required && !isSame(known[key], null)) changes[key] = null;
    if (object === 'contact') {
      completeName(changes, known);
      for (const [key, value] of Object.entries(changes)) if (isSame(value, known[key])) delete changes[key];
    }
    return changes;
  };

  const newValues = ({ object, values }: ReadPart, tags: readonly string[]): Values => {
    // Laid out whole, as records are: put together key by key it would be slow to copy.
    const complete: Values = Object.assign(
      blankValues(around.everyField ?? catalogue, object),
      around.defaults[object],
      values,
    );
    if (tags.length > 0) complete.tags = union(values.tags, tags);
    if (object === 'contact') completeName(complete);
    // A list of addresses alone: people are called by theirs.
    const isPerson = object === 'lead' || object === 'contact';
    if (isPerson && complete.name === null && typeof values.email === 'string' && !hasNames)
      complete.name = nameInAddress(values.email);
    if (object === 'contact') completeName(complete);
    if (object === 'deal' && values.stage !== undefined) {
      const stage = around.named.stage?.find(({ id }) => id === values.stage);
      if (stage?.pipeline) complete.pipeline = values.pipeline ?? stage.pipeline;
    }
    if (object === 'deal' || values.budget !== undefined)
      complete.currency ??= setup.currency ?? around.currency;
    if (object === 'activity' && complete.doneAt) {
      complete.doneBy ??= complete.owner;
      complete.dueOn ??= dayIn(around.timeZone, String(complete.doneAt));
    }
    return complete;
  };

  const neededIn = (object: TargetKey) =>
    fieldsOf(catalogue, object).filter(([key, field]) => isNeeded(field) && key !== 'owner');
  const needed = new Map(targets.map(({ key }) => [key, neededIn(key)]));

  const missing = (object: TargetKey, values: Values, row: number): Refusal[] =>
    (needed.get(object) ?? [])
      .filter(([key]) => (values[key] ?? null) === null)
      .map(([, { label }]) => ({
        row,
        column: null,
        reason: `${object === target.key ? '' : `${objectType(object).label}: `}${label} is missing`,
      }));

  const ownerFault = (values: Values, row: number): Refusal[] =>
    around.owners === undefined ||
    (values.owner ?? null) === null ||
    around.owners.includes(Number(values.owner))
      ? []
      : [{ row, column: null, reason: 'You cannot give records to this owner' }];

  /** Why the importing person may not change a record on file like this. */
  const changeFaults = (object: TargetKey, known: AnyRecord, changes: Values, row: number): Refusal[] => {
    const keys = Object.keys(changes);
    if (keys.length === 0) return [];
    const refusal = (what: string) => [
      { row, column: null, reason: `Your role does not let you change ${what}` },
    ];
    const { label, nameField } = objectType(object);
    if (onFile.isReadOnly?.(object, known.id))
      return refusal(`the ${label.toLowerCase()} “${String(known[nameField])}”, which is on file`);
    const locked = keys.filter((key) => around.locked?.(object).has(key));
    return locked.length === 0
      ? []
      : refusal(locked.map((key) => fieldOf(catalogue, object, key)?.label ?? key).join(' and '));
  };

  /** The accounts that were found to be another of nearly their name, so that each is counted once. */
  const countedAlike = new Set<string>();
  const countAlike = (name: string) => {
    if (countedAlike.has(nameKey(name))) return false;
    countedAlike.add(nameKey(name));
    plan.alike += 1;
    return true;
  };
  const isSameTaken = setup.alike === 'same';
  /** Names of accounts repeat from row to row. */
  const alikeKeys = new Map<string, string>();
  const alikeKeyOf = (name: string): string => {
    const known = alikeKeys.get(name) ?? alikeKey(name);
    alikeKeys.set(name, known);
    return known;
  };

  /** Links to the records beside the main one, planning those that are not there; undefined when one cannot be. */
  const linksOf = (
    { row, main, others }: ReadRow,
    is: ReturnType<typeof recognise>,
  ): { links: Record<string, PlannedLink>; faults: Refusal[] } => {
    const links: Record<string, PlannedLink> = {};
    const faults: Refusal[] = [];
    const accountName = String(others.account?.values.name ?? '');
    for (const part of target.parts) {
      const other = others[part.link];
      if (!other) continue;
      const linked = is?.known[part.link];
      const name = is?.names?.[part.link];
      // Of several of one name, the one it is linked to is meant.
      if (typeof linked === 'number' && name !== undefined && saysOnlyName(other, name)) {
        links[part.link] = { id: linked };
        continue;
      }
      const found = recognise(onFile, other, matchKeys[other.object], accountName);
      const { object } = other;
      if (found?.torn && part.isMade && setup.onMatch === 'update') {
        faults.push({ row, column: null, reason: `${objectType(object).label}: ${tornInWords(found.torn)}` });
        continue;
      }
      if (found && !found.unlike) {
        links[part.link] = { id: found.known.id };
        const changes = part.isMade && setup.onMatch === 'update' ? changesOf(other, found.known, []) : {};
        faults.push(...changeFaults(object, found.known, changes, row));
        // The first row that says something about a record beside the main ones is believed.
        const once = `known ${object} ${found.known.id}`;
        if (Object.keys(changes).length > 0 && !made.has(once)) {
          made.set(once, plan.others.length);
          plan.others.push({ row, object, does: 'update', known: found.known, values: changes, links: {} });
        }
        continue;
      }
      if (!part.isMade) {
        const [name] = Object.values(other.values);
        const { label } = objectType(object);
        const reason = `There is no ${label.toLowerCase()} “${String(name)}” on file`;
        if (part.isOptional) plan.notes.push({ row, column: null, reason: `${reason}; left empty` });
        else faults.push({ row, column: null, reason });
        continue;
      }
      const like =
        found || object !== 'account'
          ? undefined
          : alikeAccount(onFile, other, main.values.email ?? others.contact?.values.email, alikeKeyOf);
      if (like && isSameTaken) {
        const { known, why } = like;
        links[part.link] = { id: known.id };
        const name = String(other.values.name);
        if (countAlike(name)) plan.taken.push({ row, name, why, id: known.id });
        continue;
      }
      const keys = matchKeys[object].flatMap((key) => {
        const text = keyText(key, keyValues(other, key));
        if (text === undefined) return [];
        return [
          `${object} ${key} ${key === 'name' && object !== 'account' ? `${text} · ${nameKey(accountName)}` : text}`,
        ];
      });
      // Another email is another person beside the main records too.
      const placeOf = (names: readonly string[]) =>
        names
          .map((key) => made.get(key))
          .find(
            (place) => place !== undefined && !differingKey(object, plan.others[place].values, other.values),
          );
      const exact = placeOf(keys);
      const alikeName = object === 'account' ? `account alike ${alikeKeyOf(accountName)}` : undefined;
      const nearly = exact === undefined && alikeName !== undefined ? placeOf([alikeName]) : undefined;
      const earlier = exact ?? (isSameTaken ? nearly : undefined);
      if (nearly !== undefined && isSameTaken && countAlike(accountName))
        plan.taken.push({ row, name: accountName, why: nearlyInWords(plan.others[nearly]) });
      if (alikeName !== undefined) keys.push(alikeName);
      if (earlier !== undefined) {
        const { values } = plan.others[earlier];
        // Later rows fill in what earlier ones left open.
        for (const [key, value] of Object.entries(other.values)) values[key] ??= value;
      } else {
        const values = newValues(other, []);
        if (main.values.owner !== undefined) values.owner = main.values.owner;
        faults.push(...missing(object, values, row));
        const perhaps = found
          ? { maybe: found.known, why: maybeInWords(found.unlike) }
          : like
            ? { maybe: like.known, why: like.why }
            : nearly === undefined
              ? {}
              : { why: nearlyInWords(plan.others[nearly]) };
        if (like || nearly !== undefined) countAlike(accountName);
        plan.others.push({ row, object, does: 'create', values, links: {}, ...perhaps });
      }
      const place = earlier ?? plan.others.length - 1;
      for (const key of keys) if (!made.has(key)) made.set(key, place);
      links[part.link] = { made: place };
    }
    // A new contact beside a deal belongs to the row’s account.
    const { contact, account } = links;
    if (contact && 'made' in contact && account && target.key !== 'contact') {
      const write = plan.others[contact.made];
      plan.others[contact.made] = { ...write, links: { account } };
    }
    return { links, faults };
  };

  /** The key a row is told apart by: who has an email is by it, the same name with another mail is another person. */
  const decisiveOf = ({ main }: ReadRow) => setup.match.find((key) => hasKey(key, keyValues(main, key)));
  // Only by these need a row be found again.
  const decisive = new Set(rows.map(decisiveOf));

  /** What a row is told apart by: a name together with what stands beside it. */
  const textOf = (key: MatchKey, { main, others }: ReadRow): string | undefined => {
    const text = keyText(key, keyValues(main, key));
    if (key !== 'name' || text === undefined) return text;
    const { organisation, dueOn, kind } = main.values;
    const named = Object.values(others).map(
      (other) => other && (keyValues(other, 'name').name ?? other.values.number),
    );
    return [text, ...[organisation, dueOn, kind, ...named].map(nameKey)].join(' · ');
  };

  /** The earlier row that says the same, if there is one. */
  const twinOf = (read: ReadRow): number | undefined => {
    const by = decisiveOf(read);
    let earlier: number | undefined;
    for (const key of setup.match) {
      if (!decisive.has(key)) continue;
      const text = textOf(key, read);
      if (text === undefined) continue;
      const rowsBy = seen.get(key) ?? new Map<string, number>();
      seen.set(key, rowsBy);
      if (key === by) earlier = rowsBy.get(text);
      if (!rowsBy.has(text)) rowsBy.set(text, read.row);
    }
    return earlier;
  };

  /** New accounts by their name without legal form and habits of spelling. */
  const newAccounts = new Map<string, PlannedWrite>();
  /** The account of an earlier row that a new one probably is as well. */
  const nearlyTwin = (write: PlannedWrite): PlannedWrite | undefined => {
    const key = alikeKeyOf(String(write.values.name));
    const earlier = newAccounts.get(key);
    if (!earlier) newAccounts.set(key, write);
    if (!earlier || differingKey('account', earlier.values, write.values)) return undefined;
    countAlike(String(write.values.name));
    return earlier;
  };

  rows.reverse();
  for (let read = rows.pop(); read; read = rows.pop()) {
    const { row, main } = read;
    const { nameField } = objectType(main.object);
    const named = String(main.values.email ?? keyValues(main, 'name')[nameField] ?? `Row ${row}`);
    const twin = setup.onMatch === 'create' ? undefined : twinOf(read);
    if (twin !== undefined) {
      plan.skipped.push({ row, reason: `${named} stands in row ${twin} already` });
      continue;
    }
    const recognised =
      setup.onMatch === 'create'
        ? undefined
        : recognise(onFile, main, setup.match, String(read.others.account?.values.name ?? ''));
    const like =
      recognised || setup.onMatch === 'create' || main.object !== 'account'
        ? undefined
        : alikeAccount(onFile, main, undefined, alikeKeyOf);
    if (like) countAlike(String(main.values.name));
    const maybe =
      recognised?.unlike !== undefined
        ? { known: recognised.known, why: maybeInWords(recognised.unlike) }
        : isSameTaken
          ? undefined
          : like;
    const found = maybe ? undefined : (recognised ?? (like && { known: like.known, key: 'name' as const }));
    if (maybe && setup.onMaybe === 'skip') {
      plan.skipped.push({ row, reason: `${named}: ${maybe.why}`, id: maybe.known.id });
      continue;
    }
    const why = found && (like?.why ?? matchInWords[found.key]);
    if (found && (setup.onMatch === 'skip' || found.known.convertedAt)) {
      const reason = found.known.convertedAt ? 'was converted and is read-only' : `is there already, ${why}`;
      plan.skipped.push({ row, reason: `${named} ${reason}`, id: found.known.id });
      continue;
    }
    if (read.unlessConverted) {
      plan.refused.push(read.unlessConverted);
      continue;
    }
    if (found?.torn) {
      plan.refused.push({ row, column: null, reason: tornInWords(found.torn) });
      continue;
    }
    // Whatever the file calls it, an account keeps the name it has.
    if (found && like) delete main.values.name;
    const values = found ? changesOf(main, found.known, setup.tags) : newValues(main, setup.tags);
    const faults = [
      ...ownerFault(values, row),
      ...(found ? changeFaults(main.object, found.known, values, row) : missing(main.object, values, row)),
    ];
    const closing = target.key === 'deal' ? closeImported(values, found?.known, around.today) : undefined;
    if (closing) faults.push({ row, column: null, reason: closing });
    const { links, faults: others } = faults.length > 0 ? { links: {}, faults: [] } : linksOf(read, found);
    faults.push(...others);
    if (faults.length > 0) {
      plan.refused.push(...faults);
      continue;
    }
    if (read.notes) plan.notes.push(...read.notes);
    if (target.key === 'deal' && lacksReason(values, found?.known))
      plan.notes.push({
        row,
        column: null,
        reason: 'Lost because is missing; Upkeep counts it until it is said',
      });
    if (!found) {
      const write: PlannedWrite = { row, object: main.object, does: 'create', values, links };
      const nearly = maybe || main.object !== 'account' ? undefined : nearlyTwin(write);
      if (nearly && isSameTaken) plan.skipped.push({ row, reason: `${named}: ${nearlyInWords(nearly)}` });
      else if (nearly) plan.maybe.push({ ...write, why: nearlyInWords(nearly) });
      else if (maybe) plan.maybe.push({ ...write, maybe: maybe.known, why: maybe.why });
      else plan.create.push(write);
      continue;
    }
    const linked = Object.entries(links).filter(([link, to]) => !('id' in to) || to.id !== found.known[link]);
    if (Object.keys(values).length === 0 && linked.length === 0) {
      plan.same.push({ row, reason: `${named} is there just like this`, id: found.known.id });
      continue;
    }
    if (onFile.isReadOnly?.(main.object, found.known.id)) {
      plan.refused.push({
        row,
        column: null,
        reason: `Your role does not let you change what ${named} is linked to`,
      });
      continue;
    }
    plan.update.push({
      row,
      object: main.object,
      does: 'update',
      known: found.known,
      values,
      links: Object.fromEntries(linked),
      why,
    });
  }
  return plan;
}

/**
 * Fills in what follows from a deal's outcome in a file: one without a closing date closed when it was to.
 * @returns what speaks against it; undefined when nothing does.
 */
function closeImported(values: Values, known: AnyRecord | undefined, today: string): string | undefined {
  const closing = ['closedOn', 'wonReasons', 'wonBecause', 'lossReason', 'lossComment', 'lostTo'];
  const was = known?.outcome ?? 'open';
  const outcome = values.outcome ?? was;
  if (was !== 'open' && outcome !== was) {
    return `${String(known?.name)} is ${String(was)} already. Reopen it by hand first`;
  }
  if (outcome === 'open') {
    const filled = closing.find((key) => (values[key] ?? null) !== null);
    return filled === undefined ? undefined : 'An open deal was not closed for any reason or on any day';
  }
  const expected = String(values.closeOn ?? known?.closeOn ?? today);
  if (was === 'open') values.closedOn ??= expected < today ? expected : today;
  if (String(values.closedOn ?? '') > today) return 'Closed on lies in the future';
  return undefined;
}

/** Whether a deal comes in as lost without a reason: nobody can be asked, and so it is put right afterwards. */
const lacksReason = (values: Values, known: AnyRecord | undefined): boolean =>
  values.outcome === 'lost' && !(values.lossReason ?? known?.lossReason);

/** Whether a row says of a record beside the main one nothing but the name it is known to have. */
const saysOnlyName = ({ values }: ReadPart, name: string) =>
  Object.keys(values).length === 1 && nameKey(values.name) === nameKey(name);

/** Why a row is refused that means two records on file at once. */
const tornInWords = (torn: string) => `${torn[0].toUpperCase()}${torn.slice(1)}. Which of the two is meant?`;

/** Why a row may mean somebody on file and may not. */
const maybeInWords = (unlike: string | undefined) => `same name, but with ${unlike ?? 'something else'}`;

const nearlyInWords = ({ row, values }: PlannedWrite) =>
  `probably “${String(values.name)}” of row ${row}: the same name, spelt differently`;

/**
 * Amounts for which a file says no currency stay in that of the record they are of: as many of it, not as many of the
 * organisation’s.
 */
function keepCurrency(
  fields: readonly (readonly [string, Field])[],
  wanted: Values,
  known: AnyRecord,
  key: string,
): void {
  const [said, is] = [wanted[key], known[key]];
  if (typeof said !== 'string' || typeof is !== 'string' || said === is) return;
  wanted[key] = is;
  for (const [name, { type, currency }] of fields) {
    const amount = wanted[name];
    if (type === 'money' && currency === key && typeof amount === 'number')
      wanted[name] = toMinor(toMajor(amount, said), is);
  }
}

const isNeeded = (field: Field) => field.required === true && (field.set ?? 'edit') !== 'feature';

/** The members of both sets, in the order of their letters. */
function union(one: FieldValue | undefined, other: FieldValue): FieldValue {
  const all = [...new Set([...((one ?? []) as string[]), ...((other ?? []) as string[])])];
  return all.length === 0 ? null : all.sort((a, b) => (a < b ? -1 : 1));
}

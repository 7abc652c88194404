import {
  fieldAt,
  fieldsOf,
  isObjectKey,
  objectType,
  type Catalogue,
  type Field,
  type ObjectKey,
} from '../../kernel/catalogue';
import { type Condition } from '../../kernel/questions';
import { countries } from '../../platform/normalise/country';
import { type Vocabulary } from './reading';
import {
  fieldWords,
  grammar,
  idioms,
  isGrammar,
  isOneOf,
  linkedPaths,
  mainOwner,
  objectWords,
  ownerWords,
  type Idiom,
  type ObjectWord,
  type ValueWord,
} from './vocabulary';
import { phraseOf, stemOf, wordsOf } from './words';

type View = Vocabulary['views'][number];

/** The meanings of words in an organisation, looked up once for each object. */
export class Meanings {
  private readonly perObject = new Map<ObjectKey, ReadonlyMap<string, readonly ValueWord[]>>();
  private readonly fieldsPer = new Map<ObjectKey, ReadonlyMap<string, string>>();
  private readonly viewsPer = new Map<ObjectKey, ReadonlyMap<string, readonly View[]>>();
  private readonly idsPer = new Map<'people' | 'teams', ReadonlyMap<string, readonly number[]>>();
  private known: ReadonlySet<string> | undefined;

  constructor(readonly vocabulary: Vocabulary) {}

  get catalogue(): Catalogue {
    return this.vocabulary.catalogue;
  }

  object(phrase: string): ObjectWord | undefined {
    const found = Object.hasOwn(objectWords, phrase) ? objectWords[phrase] : undefined;
    if (!found) return undefined;
    if (this.vocabulary.rules.customers === 'won' && (phrase === 'customer' || phrase === 'client'))
      return {
        object: 'account',
        where: { related: 'deal.account', where: isOneOf('outcome', 'won'), is: 'atLeast', value: 1 },
      };
    return found;
  }

  idiom(object: ObjectKey, phrase: string): Idiom | undefined {
    return idioms[object]?.find(([said]) => said === phrase)?.[1];
  }

  /** What a phrase may say of an object's records, whole names before parts of names. */
  values(object: ObjectKey, phrase: string): readonly ValueWord[] {
    let known = this.perObject.get(object);
    if (!known) this.perObject.set(object, (known = this.valuesOf(object)));
    return known.get(phrase) ?? [];
  }

  /** What a view that is kept asks for, by its name. */
  view(object: ObjectKey, phrase: string): Condition | undefined {
    let known = this.viewsPer.get(object);
    if (!known) this.viewsPer.set(object, (known = this.viewsOf(object)));
    const found = known.get(phrase) ?? [];
    return found.length === 1 ? found[0].question.where : undefined;
  }

  /** The only person or team that a phrase means, as a whole name or as one word of it. */
  idNamed(of: 'people' | 'teams', phrase: string): number | undefined {
    let known = this.idsPer.get(of);
    if (!known) this.idsPer.set(of, (known = idsByPhrase(this.vocabulary[of])));
    const found = known.get(phrase) ?? [];
    return found.length === 1 ? found[0] : undefined;
  }

  /** The path of the field that a phrase names. */
  field(object: ObjectKey, phrase: string): string | undefined {
    let known = this.fieldsPer.get(object);
    if (!known) this.fieldsPer.set(object, (known = this.fieldsOf(object)));
    return known.get(phrase);
  }

  /** Everything that has a name and can be said of an object’s records, as it is written. */
  names(object: ObjectKey): string[] {
    const { people, teams, pipelines, stages, lists, views } = this.vocabulary;
    const fields = fieldsOf(this.catalogue, object);
    return [
      ...Object.keys(objectWords).map((word) => plural(word)),
      ...fields.map(([, { label }]) => label.toLowerCase()),
      ...fields.flatMap(([, { choices = [] }]) => choices.map(({ label }) => label)),
      ...people.map(({ name }) => name),
      ...[...teams, ...pipelines, ...stages].map(({ name }) => name),
      ...[...lists, ...views].filter((each) => each.object === object).map(({ name }) => name),
      ...countries().map(({ name }) => name),
      ...[
        'this month',
        'this quarter',
        'this year',
        'last month',
        'last quarter',
        'last year',
        'compared with last year',
        'as columns',
        'as a line',
      ],
    ];
  }

  /** Every word that means something, by itself or within a name. */
  get words(): ReadonlySet<string> {
    if (this.known) return this.known;
    const words = new Set<string>();
    const { people, teams, pipelines, stages, lists, views } = this.vocabulary;
    for (const { name } of [people, teams, pipelines, stages, lists, views].flat())
      for (const { text, stem } of wordsOf(name)) words.add(text).add(stem);
    const add = (phrase: string) => {
      for (const word of phrase.split(' ')) words.add(word).add(plural(word));
    };
    for (const word of grammar.split(/\s+/)) words.add(word).add(stemOf(word));
    for (const phrase of Object.keys(objectWords)) add(phrase);
    for (const object of ['deal', 'lead', 'contact', 'account', 'activity', 'mail'] as const) {
      for (const [phrase] of idioms[object] ?? []) add(phrase);
      for (const phrase of this.fieldsPerObject(object).keys()) add(phrase);
      this.values(object, '');
      for (const phrase of this.perObject.get(object)?.keys() ?? []) add(phrase);
    }
    return (this.known = words);
  }

  private viewsOf(object: ObjectKey): ReadonlyMap<string, readonly View[]> {
    const views = new Map<string, View[]>();
    for (const view of this.vocabulary.views)
      if (view.object === object) {
        const phrase = phraseOf(view.name);
        views.set(phrase, [...(views.get(phrase) ?? []), view]);
      }
    return views;
  }

  private fieldsPerObject(object: ObjectKey): ReadonlyMap<string, string> {
    this.field(object, '');
    return this.fieldsPer.get(object) ?? new Map<string, string>();
  }

  private fieldsOf(object: ObjectKey): ReadonlyMap<string, string> {
    const { catalogue } = this;
    const paths = new Map<string, string>();
    const put = (phrase: string, path: string) => {
      if (!paths.has(phrase) && fieldAt(catalogue, object, path)) paths.set(phrase, path);
    };
    for (const [phrase, path] of Object.entries(fieldWords[object] ?? {})) put(phrase, path);
    for (const [key, field] of fieldsOf(catalogue, object)) put(phraseOf(field.label), key);
    for (const [key, label] of [
      ['createdAt', 'created'],
      ['updatedAt', 'changed'],
      ['createdBy', 'created by'],
    ])
      put(phraseOf(label), key);
    for (const [key, field] of fieldsOf(catalogue, object)) {
      if (key.toLowerCase() !== key) continue;
      put(phraseOf(key), key);
      if (!isObjectKey(field.to) || field.to === 'person') continue;
      for (const [inner, { label }] of fieldsOf(catalogue, field.to))
        put(phraseOf(`${field.label} ${label}`), `${key}.${inner}`);
    }
    for (const word of ownerWords) put(word, mainOwner);
    put('team', `${mainOwner}.team`);
    for (const [word, candidates] of Object.entries(linkedPaths))
      for (const path of candidates) put(word, path);
    if (object === 'activity') put('type', 'kind');
    return paths;
  }

  private valuesOf(object: ObjectKey): ReadonlyMap<string, readonly ValueWord[]> {
    const { vocabulary } = this;
    const found = new Map<string, ValueWord[]>();
    const put = (phrase: string, word: ValueWord) => {
      if (phrase === '') return;
      const all = found.get(phrase) ?? [];
      if (!all.some((each) => each.path === word.path && each.value === word.value))
        found.set(phrase, [...all, word]);
    };
    const choicesAt = (path: string, field: Field) => {
      for (const { key, label } of field.choices ?? []) {
        const phrase = phraseOf(label);
        put(phrase, { path, value: key });
        const [first] = phrase.split(' ');
        // “Contacts” are records, and no loss of one.
        if (first !== phrase && first.length > 4 && !Object.hasOwn(objectWords, first))
          put(first, { path, value: key, isPart: true });
        const asKey = phraseOf(key.replace(/([A-Z])/g, ' $1'));
        if (asKey !== phrase && asKey.length > 3 && !isGrammar(asKey))
          put(asKey, { path, value: key, isPart: true });
      }
    };
    for (const [key, field] of fieldsOf(this.catalogue, object)) {
      if (field.type === 'choice' || field.type === 'choices') choicesAt(key, field);
      if (field.to === 'stage') {
        for (const { id, name } of vocabulary.stages) put(phraseOf(name), { path: key, value: id });
        for (const [first, id] of byFirstWord(vocabulary.stages))
          put(first, { path: key, value: id, isPart: true });
      }
      if (field.to === 'pipeline')
        for (const { id, name } of vocabulary.pipelines) {
          put(phraseOf(name), { path: key, value: id });
          put(`${phraseOf(name)} pipeline`, { path: key, value: id });
        }
    }
    for (const path of ['account.industry', 'account.relationship']) {
      const field = fieldAt(this.catalogue, object, path);
      const own = fieldAt(this.catalogue, object, path.slice(8));
      if (field && !own && object !== 'account') choicesAt(path, field);
    }
    const country = ['country', 'account.country'].find((path) => fieldAt(this.catalogue, object, path));
    if (country) for (const [phrase, code] of countryPhrases()) put(phrase, { path: country, value: code });
    if (objectType(object).category === 'work')
      for (const list of vocabulary.lists)
        if (list.object === object) put(phraseOf(list.name), { path: 'lists', value: list.id });
    return found;
  }
}

/** Stages by the first word of their names, where no other has it: “in proposal”. */
function byFirstWord(stages: Vocabulary['stages']): ReadonlyMap<string, number> {
  const ids = new Map<string, number[]>();
  for (const { id, name } of stages) {
    const [first] = phraseOf(name).split(' ');
    ids.set(first, [...(ids.get(first) ?? []), id]);
  }
  const isTelling = (word: string) =>
    word.length > 3 && !Object.hasOwn(objectWords, word) && !isGrammar(word);
  return new Map(
    [...ids].flatMap(([first, [id, ...others]]) =>
      others.length === 0 && isTelling(first) ? [[first, id]] : [],
    ),
  );
}

/** Ids of people or teams by what they are called: their names, and each word of them that tells who is meant. */
function idsByPhrase(all: Vocabulary['people']): ReadonlyMap<string, readonly number[]> {
  const found = new Map<string, number[]>();
  for (const { id, name } of all) {
    const words = name.toLowerCase().split(/\s+/).map(stemOf);
    const telling = words.filter((word) => word.length > 2 && !isGrammar(word));
    for (const phrase of new Set([words.join(' '), ...telling]))
      found.set(phrase, [...(found.get(phrase) ?? []), id]);
  }
  return found;
}

let known: readonly (readonly [phrase: string, code: string])[] | undefined;

/** Every country by its name, put together once. */
const countryPhrases = () => (known ??= countries().map(({ code, name }) => [phraseOf(name), code] as const));

/** The plural of a word, roughly: for telling what is misspelt. */
const plural = (stem: string) => (stem.endsWith('y') ? `${stem.slice(0, -1)}ies` : `${stem}s`);

import { type DataSource, type EntityManager } from 'typeorm';
import { subjectKeys, type AnyRecord } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { entryOf, forgivenWords, hangs, rowOf, searchedKinds } from './search-index';
import { variantsOf } from './spelling';

const SLICE = 2000;

type Kept = AnyRecord & { deletedAt: string | null };

/** Every record of a kind, in slices, those in the bin left out. */
async function* slicesOf(manager: EntityManager, table: string): AsyncGenerator<AnyRecord[]> {
  for (let after = 0; ;) {
    const rows = await manager
      .createQueryBuilder()
      .select('r.*')
      .from(table, 'r')
      .where('r.id > :after', { after })
      .orderBy('r.id')
      .limit(SLICE)
      .getRawMany<Kept>();
    if (rows.length === 0) return;
    after = rows[rows.length - 1].id;
    yield rows.filter(({ deletedAt }) => deletedAt === null);
  }
}

/** Builds the full-text index and the spellings from what the tables hold. */
export async function fillIndex(manager: EntityManager): Promise<void> {
  const terms = new Set<string>();
  const ownerOf = new Map<string, number>();
  for (const kind of searchedKinds) {
    for await (const rows of slicesOf(manager, kind)) {
      for (const row of rows) {
        const { title, words, said, who } = entryOf(kind, row);
        const owners = new Set([who]);
        if (hangs(kind))
          for (const subject of subjectKeys) {
            const owner = ownerOf.get(`${subject} ${String(row[subject])}`);
            if (owner !== undefined) owners.add(`o${owner}`);
          }
        else ownerOf.set(`${kind} ${row.id}`, Number(row.owner));
        const owned = [...owners].join(' ');
        dialect.run(manager, dialect.fullText.put, [rowOf(kind, row.id), title, words, said, owned]);
        for (const word of forgivenWords(kind, row)) terms.add(word);
      }
    }
  }
  for (const term of terms)
    for (const variant of variantsOf(term))
      dialect.run(manager, dialect.fullText.putSpelling, [variant, term]);
  dialect.run(manager, dialect.fullText.join);
}

/** Builds the index of a database that has none yet, as after a change of its make. */
export async function fillIndexIfEmpty(writing: DataSource): Promise<void> {
  const [{ isEmpty }] = await writing.query<{ isEmpty: number }[]>(dialect.fullText.isEmpty);
  if (isEmpty) await writing.transaction(fillIndex);
}

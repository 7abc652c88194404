/** What is looked through: names, then all that records hold, then what activities say. */
export type SearchedPart = 'title' | 'anywhere' | 'said';

const searchedColumns: Record<SearchedPart, string> = {
  title: 'title',
  anywhere: '{title words}',
  said: 'said',
};

const searchTable = (columns: string, kept = '') =>
  `CREATE VIRTUAL TABLE search USING fts5(${columns}, tokenize = "unicode61 remove_diacritics 2", prefix = '2 3'${kept})`;

/** The words themselves are not kept, only where they are. */
const WORDS_ONLY = `, content = '', contentless_delete = 1`;

/** Words are put in order in this much memory before they are written: much is written at once by imports. */
const sortedAtOnce = `INSERT INTO search(search, rank) VALUES ('hashsize', ${8 << 20})`;

/**
 * The full-text index. A row's id carries kind and record, so that rewriting one row needs no scan; `who` names the
 * owners whose reach the record is in, so that a search for a person never looks beyond theirs.
 */
export const fullText = {
  create: searchTable('title, words'),
  drop: 'DROP TABLE search',
  widen: [
    'DROP TABLE search',
    searchTable('title, words, who', WORDS_ONLY),
    'CREATE TABLE spelling (variant TEXT NOT NULL, term TEXT NOT NULL, PRIMARY KEY (variant, term)) WITHOUT ROWID',
  ],
  narrow: ['DROP TABLE spelling', 'DROP TABLE search', searchTable('title, words')],
  /** Room for what was said and done, apart from what records are called and hold. */
  hear: ['DROP TABLE search', searchTable('title, words, said, who', WORDS_ONLY), sortedAtOnce],
  unhear: ['DROP TABLE search', searchTable('title, words, who', WORDS_ONLY)],
  /** Where in a text a word stands is not kept: nobody looks for words in a row, and the index is a third smaller. */
  slim: [
    'DROP TABLE search',
    searchTable('title, words, said, who', `${WORDS_ONLY}, detail = column`),
    sortedAtOnce,
  ],
  /** Makes one piece of the many that words were written in, so that a search looks in one place. */
  join: `INSERT INTO search(search) VALUES ('optimize')`,
  remove: 'DELETE FROM search WHERE rowid = ?',
  put: 'INSERT INTO search(rowid, title, words, said, who) VALUES (?, ?, ?, ?, ?)',
  isEmpty: 'SELECT NOT EXISTS (SELECT 1 FROM search) AS "isEmpty"',
  /** Takes every row out. */
  empty: [`INSERT INTO search(search) VALUES ('delete-all')`, 'DELETE FROM spelling'],
  /** How many rows there are at one place of so many. */
  countKind: 'SELECT COUNT(*) AS "count" FROM search WHERE rowid % ? = ?',
  /** The rows that match, the latest first. */
  find: 'SELECT rowid AS "row" FROM search WHERE search MATCH ? ORDER BY rowid DESC LIMIT ?',
  /** The rows that match at one place of so many, the latest first. */
  findKind:
    'SELECT rowid AS "row" FROM search WHERE search MATCH ? AND rowid % ? = ? ORDER BY rowid DESC LIMIT ?',
  putSpelling: 'INSERT OR IGNORE INTO spelling(variant, term) VALUES (?, ?)',
  spellings: (count: number) =>
    `SELECT DISTINCT term FROM spelling WHERE variant IN (${Array(count).fill('?').join(', ')})`,
  /**
   * A query for records with all of these words, each given with its likely spellings, as the beginnings of words.
   * @param who the owners it is held to; everyone's when undefined.
   */
  query(words: readonly (readonly string[])[], within: SearchedPart, who?: readonly number[]): string {
    const each = words.map((spellings) => `(${spellings.map((word) => `"${word}"*`).join(' OR ')})`);
    const found = `${searchedColumns[within]} : (${each.join(' AND ')})`;
    if (!who) return found;
    // Held to nobody's records it finds none; no owner is written like this.
    const owners = who.length === 0 ? ['"nobody"'] : who.map((id) => `"o${id}"`);
    return `(${found}) AND who : (${owners.join(' OR ')})`;
  },
};

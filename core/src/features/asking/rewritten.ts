/** What was typed, put in words that are read one after the other. */
export interface Rewritten {
  text: string;
  /** Only the first few groups are asked for. */
  first?: { count: number; descending: boolean };
  isOfDeals?: true;
  /** It is meant so only where it names records. */
  needsNoun?: true;
}

/** So many where no number is said. */
const TOP = '10';

/** What records are told by, as it is called where it is asked for. */
const GROUPS =
  'accounts?|companies|company|customers?|clients?|owners?|reps?|sellers?|teams?|sources?|countries|country|industries|industry';
/** The same where it is said by what they are told: people by themselves may be contacts. */
const ALL_GROUPS = `${GROUPS}|people|person|stages?|pipelines?|competitors?`;
const PERIODS = 'weeks?|months?|quarters?|years?|weekdays?';

/** The field that such a word means. */
function groupNamed(word: string): string {
  const of: Record<string, string> = {
    compan: 'account',
    custome: 'account',
    client: 'account',
    rep: 'owner',
    seller: 'owner',
    peopl: 'owner',
    person: 'owner',
  };
  return Object.entries(of).find(([start]) => word.toLowerCase().startsWith(start))?.[1] ?? word;
}

const TOP_GROUPS = new RegExp(
  `^\\s*(?:the\\s+|our\\s+)?(top|bottom)\\s+(?:(\\d{1,3})\\s+)?(${ALL_GROUPS})\\s+by\\s+((?:won|open|lost|weighted|total)\\s+value|value|revenue|weighted|won)\\b(.*)$`,
  'iu',
);
const TOP_COUNTS = new RegExp(
  `^\\s*(?:the\\s+|our\\s+)?(top|bottom)\\s+(?:(\\d{1,3})\\s+)?(${ALL_GROUPS})\\s+by\\s+(?:the\\s+)?(?:number|count)\\s+of\\s+(.+?)\\??\\s*$`,
  'iu',
);
const WITH_MOST = new RegExp(
  `^\\s*(?:the\\s+|our\\s+)?(${ALL_GROUPS})\\s+with\\s+(?:the\\s+)?(most|fewest|least)\\s+(.+?)\\??\\s*$`,
  'iu',
);
const MOST_OF = new RegExp(
  `^\\s*(?:who|(?:which|what)\\s+(${ALL_GROUPS}))\\s+(has|have|had|owns|own|won|lost|closed|created|added|converted|made|held|logged|did|brought|brings?|gave|gives?|gets?|got)\\s+(?:us\\s+|in\\s+)?(?:the\\s+)?(most|fewest|least)\\s+(?:of\\s+)?(.*?)\\??\\s*$`,
  'iu',
);

/** “Top 5 accounts by won value”: the deals of which something is told, by what they are told. */
function topGroups(text: string): Rewritten | undefined {
  const found = TOP_GROUPS.exec(text);
  if (!found) return undefined;
  const [, side, count = TOP, group, measure, rest] = found;
  return {
    first: { count: Number(count), descending: isTop(side) },
    text: `${measure === 'won' ? 'won value' : measure} by ${groupNamed(group)}${rest}`,
    isOfDeals: true,
  };
}

const isTop = (side: string) => side.toLowerCase() === 'top';

/** “Top 3 accounts by number of deals”, “accounts with the most open deals”: what is counted, by what it is counted by. */
function topCounts(text: string): Rewritten | undefined {
  const counts = TOP_COUNTS.exec(text);
  if (counts) {
    const [, side, count = TOP, group, what] = counts;
    const first = { count: Number(count), descending: isTop(side) };
    return { first, text: `number of ${what} by ${groupNamed(group)}` };
  }
  const found = WITH_MOST.exec(text);
  if (!found) return undefined;
  const [, group, side, what] = found;
  const first = { count: MOST_GROUPS, descending: side.toLowerCase() === 'most' };
  return { first, text: `${what} by ${groupNamed(group)}` };
}

/** Those that are asked for by what they have most or least of, shown at once. */
const MOST_GROUPS = 10;

/** “Who has the most open deals”, “which source brought the fewest leads last month”: by owner or source, those first. */
function mostOf(text: string): Rewritten | undefined {
  const found = MOST_OF.exec(text);
  if (!found) return undefined;
  const [, group = 'owner', verb, side, what] = found;
  const said = /^(?:ha|own|did|br|g)/i.test(verb) ? '' : `${verb} `;
  const isAmount =
    /^(?:won|lost|closed)$/i.test(verb) && /^(?:$|(?:in|this|last|since|so far)\b)/iu.test(what);
  return {
    first: { count: MOST_GROUPS, descending: side.toLowerCase() === 'most' },
    text: `${said}${isAmount ? 'value ' : ''}${what} by ${groupNamed(group)}`,
  };
}

/** Periods and people that are told by what was won. */
const BEST = new RegExp(
  `^\\s*(?:the\\s+|our\\s+|my\\s+)?(top|best|biggest|largest|strongest|worst|weakest|smallest|bottom)\\s+(?:(\\d{1,3})\\s+)?(${GROUPS}|${PERIODS})(?:\\s+ever)?((?:\\s+(?:this|last|since|so far|in(?!\\s+(?:the\\s+|our\\s+)?pipeline)|of|for|from)\\b.*)?)\\??\\s*$`,
  'iu',
);

/** “Biggest customers”, “best month this year”, “top 5 reps last quarter”: by what was won, as nothing else is said. */
function bestOf(text: string): Rewritten | undefined {
  const found = BEST.exec(text);
  if (!found) return undefined;
  const [, side, said, group, rest] = found;
  // “Best month” is one.
  const isOne = said === undefined && /^(?:week|month|quarter|year|weekday)$/i.test(group);
  const isDown = !/^(?:worst|weakest|smallest|bottom)$/i.test(side);
  return {
    first: { count: isOne ? 1 : Number(said ?? TOP), descending: isDown },
    text: `won value by ${groupNamed(group)}${rest}`,
    isOfDeals: true,
  };
}

const SOLD_BY_PRODUCT =
  /^\s*(?:sales|revenue|turnover|won value)(?:\s+value)?\s+(?:by|per)\s+products?\b(.*?)\??\s*$/iu;
const PRODUCTS_SOLD =
  /^\s*(?:(?:which|what)\s+)?products?\s+(?:(?:did|have|do)\s+we\s+)?(?:sold|sell)\b(.*?)\??\s*$/iu;
const TOP_PRODUCTS =
  /^\s*(?:the\s+|our\s+)?(?:top|best)(?:[\s-]+selling)?\s+(?:(\d{1,3})\s+)?products?\b(.*?)\??\s*$/iu;

/** “Sales by product”, “which products did we sell last month”, “top 5 products”: what lines of won deals came to. */
function soldProducts(text: string): Rewritten | undefined {
  const top = TOP_PRODUCTS.exec(text);
  const found = SOLD_BY_PRODUCT.exec(text) ?? PRODUCTS_SOLD.exec(text);
  const rest = top?.[2] ?? found?.[1];
  if (rest === undefined) return undefined;
  return {
    text: `sum of deal lines of deals won${rest} by product`,
    ...(top ? { first: { count: Number(top[1] ?? TOP), descending: true } } : {}),
  };
}

/** “Who has overdue tasks”: those tasks, by whose they are. Who has none is nobody’s record. */
function whoHas(text: string): Rewritten | undefined {
  const found =
    /^\s*who\s+(?:has|have|owns|holds)\s+(?:got\s+)?(?!(?:the\s+)?(?:most|fewest|least|no|not|none|never|nothing|yet|to|called|phoned|emailed|written|visited|met|contacted|spoken|been)\b)(.+?)\??\s*$/iu.exec(
      text,
    );
  return found ? { text: `${found[1]} by owner`, needsNoun: true } : undefined;
}

/** “How long do deals take to close”: the days that won deals took. */
function howLong(text: string): Rewritten | undefined {
  const found =
    /^\s*how long (?:(?:do|does|did) (?:it take (?:us )?to (?:close|win) (?:a )?deals?|(?:won )?deals? take(?: to (?:close|win|be won))?)|is (?:our|the) sales cycle)\b(.*?)\??\s*$/iu.exec(
      text,
    );
  return found ? { text: `average days to close${found[1]}`, isOfDeals: true } : undefined;
}

/** “What did Nora do yesterday”, “what do I have to do today”, “what is due this week”: activities that are not named. */
function whatIsDone(text: string): Rewritten | undefined {
  const found =
    /^\s*what\s+(?:(did|has|have)\s+(.+?)\s+(?:do|done)|(?:do|does|must)\s+(.+?)\s+(?:have\s+to\s+|need\s+to\s+)?do|(?:is|are|was)\s+due)\b(.*?)\??\s*$/iu.exec(
      text,
    );
  if (!found) return undefined;
  const [, did, doer, owner, rest] = found;
  const named = (who: string) => (/^i$/i.test(who) ? 'me' : who);
  const everyone = /^(?:we|they)$/i;
  const by = (word: string, who: string) => (everyone.test(who) ? '' : ` ${word} ${named(who)}`);
  if (did !== undefined) return { text: `activities done${by('by', doer)}${rest}` };
  return owner === undefined
    ? { text: `open activities due${rest}` }
    : { text: `open activities${by('of', owner)} due${rest}` };
}

/** The same in words that are read one after the other, where it was put in another way. */
export const rewritten = (text: string): Rewritten | undefined =>
  topGroups(text) ??
  topCounts(text) ??
  bestOf(text) ??
  soldProducts(text) ??
  mostOf(text) ??
  whoHas(text) ??
  howLong(text) ??
  whatIsDone(text);

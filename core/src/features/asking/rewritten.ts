/** What was typed, put in words that are read one after the other. */
export interface Rewritten {
  text: string;
  /** Only the first few groups are asked for. */
  first?: { count: number; descending: boolean };
  isOfDeals?: true;
}

/** So many where no number is said. */
const TOP = '10';

/** “Top 5 accounts by won value”: the deals of which something is told, by what they are told. */
function topGroups(text: string): Rewritten | undefined {
  const found =
    /^\s*(?:the\s+|our\s+)?top\s+(?:(\d{1,3})\s+)?(accounts?|companies|customers?|owners?|reps?|people|sources?|countries|industries)\s+by\s+((?:won|open|lost|weighted|total)\s+value|value|revenue|weighted|won)\b(.*)$/iu.exec(
      text,
    );
  if (!found) return undefined;
  const [, count = TOP, group, measure, rest] = found;
  const of: Record<string, string> = { compan: 'account', custome: 'account', rep: 'owner', peopl: 'owner' };
  const named = Object.entries(of).find(([start]) => group.toLowerCase().startsWith(start))?.[1] ?? group;
  return {
    first: { count: Number(count), descending: true },
    text: `${measure === 'won' ? 'won value' : measure} by ${named}${rest}`,
    isOfDeals: true,
  };
}

/** People who are asked for by what they have most or least of, shown at once. */
const MOST_PEOPLE = 10;

/** “Who has the most open deals”, “which rep made the fewest calls last week”: by owner, those first. */
function mostOf(text: string): Rewritten | undefined {
  const found =
    /^\s*(?:who|which\s+(?:rep|reps|person|owner|owners|people))\s+(has|have|had|owns|own|won|lost|closed|created|added|converted|made|held|logged|did)\s+(?:the\s+)?(most|fewest|least)\s+(?:of\s+)?(.*?)\??\s*$/iu.exec(
      text,
    );
  if (!found) return undefined;
  const [, verb, side, what] = found;
  const said = /^(?:ha|own|did)/i.test(verb) ? '' : `${verb} `;
  const isAmount =
    /^(?:won|lost|closed)$/i.test(verb) && /^(?:$|(?:in|this|last|since|so far)\b)/iu.test(what);
  return {
    first: { count: MOST_PEOPLE, descending: side.toLowerCase() === 'most' },
    text: `${said}${isAmount ? 'value ' : ''}${what} by owner`,
  };
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
  topGroups(text) ?? mostOf(text) ?? whatIsDone(text);

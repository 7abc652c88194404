/** A rule that gives a lead points, or takes some, while its condition holds. */
export interface ScoreRule {
  id: number;
  name: string;
  points: number;
}

export interface Score {
  score: number;
  /** The rules that counted, those of most weight first. */
  counted: ScoreRule[];
}

/** The sum of the points of rules that hold. */
export const pointsOf = (rules: readonly Pick<ScoreRule, 'points'>[]): number =>
  rules.reduce((sum, { points }) => sum + points, 0);

/** A score with the rules that gave points, the weightiest first. */
export function scoreOf(rules: readonly ScoreRule[], holds: (rule: ScoreRule) => boolean): Score {
  const counted = rules
    .filter(holds)
    .sort((a, b) => Math.abs(b.points) - Math.abs(a.points) || a.name.localeCompare(b.name));
  return {
    score: pointsOf(counted),
    counted: counted.map(({ id, name, points }) => ({ id, name, points })),
  };
}

/** Fields a score rule cannot ask about: they follow from the score, so that the rule would never come to rest. */
export const scoredFields: readonly string[] = ['score'];

import { choices } from '../../kernel/catalogue/choice-lists';
import { competitorFigures, competitorQuestions } from './competitors';

const rivals = [
  ...choices(['delmark', 'Delmark'], ['pentrose', 'Pentrose'], ['quiet', 'Quiet']),
  { key: 'gone', label: 'Gone', retired: true as const },
];
const row = (key: string, count: number, value: number) => ({ keys: [key], figures: [count, value] });

describe('competitors', () => {
  it('are shown with what was won and lost against them, those met most first', () => {
    const answers = [
      [row('delmark', 1, 500)],
      [row('pentrose', 3, 900)],
      [row('pentrose', 1, 100), row('delmark', 1, 50)],
      [row('delmark', 1, 50)],
    ];
    expect(competitorFigures(rivals, answers)).toMatchObject([
      {
        key: 'pentrose',
        won: { count: 3, value: 900 },
        lost: { count: 1 },
        lostTo: { count: 0 },
        rate: 0.75,
      },
      { key: 'delmark', open: { count: 1, value: 500 }, lostTo: { count: 1, value: 50 }, rate: 0 },
      { key: 'quiet', rate: null },
    ]);
  });

  it('that are not offered any more are shown as long as deals name them', () => {
    const answers = [[], [row('gone', 1, 1)], [], []];
    expect(competitorFigures(rivals, answers).map(({ key }) => key)).toContain('gone');
    expect(competitorFigures(rivals, [[], [], [], []]).map(({ key }) => key)).not.toContain('gone');
  });

  it('are asked for all at once, or one alone, closed within some time or ever', () => {
    const { won, open } = competitorQuestions({ direction: 'last', count: 12, unit: 'month' }, 'delmark');
    expect(won.where).toEqual({
      join: 'all',
      of: [
        { field: 'competitors', is: 'anyOf', value: ['delmark'] },
        { field: 'outcome', is: 'anyOf', value: ['won'] },
        { field: 'closedOn', is: 'in', value: { direction: 'last', count: 12, unit: 'month' } },
      ],
    });
    expect(JSON.stringify(open.where)).not.toContain('closedOn');
    expect(JSON.stringify(competitorQuestions().won.where)).toContain('isNotEmpty');
  });
});

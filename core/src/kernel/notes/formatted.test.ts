import fc from 'fast-check';
import { checkFormatted, mentionsIn, mostMentions, plainText, type Formatted } from '.';

const text = (value: string, ...marks: object[]) => ({ type: 'text', text: value, marks });
const mention = (id: number, label = `P${id}`) => ({ type: 'mention', attrs: { id, label } });
const doc = (...content: object[]) => ({ type: 'doc', content });
const paragraph = (...content: object[]) => ({ type: 'paragraph', content });
const messageOf = (raw: unknown) => checkFormatted(raw).faults[0]?.message;

describe('a formatted note', () => {
  it('keeps what notes have and drops what they do not', () => {
    const raw = doc(
      { type: 'heading', attrs: { level: 1, onclick: 'x' }, content: [text('Survey')] },
      paragraph(text('Two ', { type: 'bold' }), text('pools', { type: 'sparkle' }), { type: 'hardBreak' }),
      { type: 'bulletList', content: [{ type: 'listItem', content: [paragraph(text('pump house'))] }] },
      paragraph(mention(7, 'Maren Ollerby'), text(' please look')),
    );
    const { value } = checkFormatted(raw);
    expect(value).toEqual(
      doc(
        { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Survey' }] },
        paragraph(
          { type: 'text', text: 'Two ', marks: [{ type: 'bold' }] },
          { type: 'text', text: 'pools' },
          { type: 'hardBreak' },
        ),
        {
          type: 'bulletList',
          content: [{ type: 'listItem', content: [paragraph({ type: 'text', text: 'pump house' })] }],
        },
        paragraph(mention(7, 'Maren Ollerby'), { type: 'text', text: ' please look' }),
      ),
    );
    expect(plainText(value as Formatted)).toBe(
      'Survey\nTwo pools\n\n- pump house\n@Maren Ollerby please look',
    );
    expect(mentionsIn(value as Formatted)).toEqual([7]);
  });

  it('mentions fifty people at most, each counted once', () => {
    const some = Array.from({ length: mostMentions }, (_, at) => mention(at + 1));
    expect(messageOf(doc(paragraph(...some, ...some)))).toBeUndefined();
    const many = Array.from({ length: 2500 }, (_, at) => mention(at + 1));
    expect(messageOf(doc(paragraph(...many)))).toBe('A note can mention 50 people, this one 2500');
    const tooMany = Array.from({ length: 5000 }, (_, at) => mention(at + 1));
    expect(messageOf(doc(paragraph(...tooMany)))).toBe('The note is too large');
  });

  it.each([
    ['nothing', undefined],
    ['text', 'hello'],
    ['a list without items', doc({ type: 'bulletList', content: [paragraph(text('x'))] })],
    ['an image', doc({ type: 'image', attrs: { src: 'x' } })],
    ['an empty text', doc(paragraph(text('')))],
    ['a mention of nobody', doc(paragraph({ type: 'mention', attrs: { id: 'all' } }))],
    ['only spaces', doc(paragraph(text('   ')))],
    [
      'a link that runs something',
      doc(paragraph(text('x', { type: 'link', attrs: { href: 'javascript:alert(1)' } }))),
    ],
    ['21,000 letters', doc(paragraph(text('x'.repeat(21_000))))],
  ])('refuses %s, saying why', (_, raw) => {
    expect(checkFormatted(raw)).toEqual({
      value: undefined,
      faults: [{ field: '', message: expect.stringMatching(/note/) as string }],
    });
  });

  it('refuses what is nested beyond reason', () => {
    let nested: object = paragraph(text('x'));
    for (let depth = 0; depth < 40; depth += 1) nested = { type: 'blockquote', content: [nested] };
    expect(messageOf(doc(nested))).toBe('The note is too large');
  });

  it('never throws, and what it lets through it lets through again unchanged', () => {
    const inline = fc.oneof(
      fc.record({
        type: fc.constant('text'),
        text: fc.string(),
        marks: fc.array(fc.record({ type: fc.string() })),
      }),
      fc.record({ type: fc.constant('mention'), attrs: fc.record({ id: fc.integer(), label: fc.string() }) }),
      fc.anything(),
    );
    const block = fc.oneof(
      fc.record({ type: fc.constant('paragraph'), content: fc.array(inline) }),
      fc.anything(),
    );
    fc.assert(
      fc.property(fc.record({ type: fc.constant('doc'), content: fc.array(block) }), (raw) => {
        const { value } = checkFormatted(raw);
        if (value) expect(checkFormatted(JSON.parse(JSON.stringify(value))).value).toEqual(value);
      }),
    );
  });
});

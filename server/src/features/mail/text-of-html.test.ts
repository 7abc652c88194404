import { textOfHtml } from './text-of-html';

const LONGEST = 200_000;
const MEGABYTE = 1_000_000;
const full = (part: string) => part.repeat(Math.ceil(MEGABYTE / part.length));

/** Milliseconds of work at the least of three readings: others share the machine, and one reading in many waits for them. */
const spentOn = (html: string) => {
  const readings = [1, 2, 3].map(() => {
    const began = process.cpuUsage();
    textOfHtml(html, LONGEST);
    const { user, system } = process.cpuUsage(began);
    return (user + system) / 1000;
  });
  return Math.min(...readings);
};

describe('the text of an HTML mail', () => {
  it.each([
    ['<p>Dear all,</p><p>one &amp; two<br>three</p>', 'Dear all,\none & two\nthree'],
    ['<style>p { color: red }</style><script>alert("x")</script>Read me', 'Read me'],
    ['<table><tr><td>a</td><td>b</td></tr><tr><td>c</td></tr></table>', 'a b\nc'],
    ['a &lt;b&gt; &eacute; &#8364; &nope;', 'a <b> é € &nope;'],
    ['no markup at all', 'no markup at all'],
    ['<div>one</div>\n\n\n\n<div>two</div>', 'one\n\ntwo'],
    ['<img src=x onerror=alert(1)>seen', 'seen'],
  ])('%s', (html, text) => {
    expect(textOfHtml(html, LONGEST)).toBe(text);
  });

  it.each([
    ['nested without end', full('<div>')],
    [
      'closed by something else',
      full('<div>').slice(0, MEGABYTE / 2) + full('</span>').slice(0, MEGABYTE / 2),
    ],
    ['closed without having been opened', full('</div>')],
    ['attributes without end', `<a href="${full('x')}`],
    ['many attributes', `<a ${full('b=c ')}>`],
    ['comments without end', full('<!--')],
    ['ampersands', full('&')],
    ['entities', full('&amp;')],
    ['brackets', full('<')],
    ['styles without end', full('<style>')],
    ['white space', full(' \n')],
    ['spaces that do not break', full('\n\u00a0\u00a0')],
  ])('takes no time over a megabyte of what is %s', (_, html) => {
    const tenth = spentOn(html.slice(0, html.length / 10));
    // Ten times as much takes ten times as long, not a hundred times; on a fast machine a second at most.
    expect(spentOn(html)).toBeLessThan(Math.max(1000, 40 * tenth));
  });

  it('stops where it has become too long', () => {
    expect(textOfHtml('<b>word</b> '.repeat(100), 50).length).toBeLessThan(60);
  });
});

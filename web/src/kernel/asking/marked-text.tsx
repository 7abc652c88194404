import { type Span } from '@zawn/core';
import { Fragment } from 'react';

/** A text with some places of it underlined. */
export function MarkedText({ text, spans }: { text: string; spans: readonly Span[] }) {
  const cuts = [...spans].sort((a, b) => a.from - b.from);
  return (
    <span className="marked-text">
      {cuts.map(({ from, to }, index) => (
        <Fragment key={from}>
          {text.slice(index === 0 ? 0 : cuts[index - 1].to, from)}
          <mark>{text.slice(from, to)}</mark>
        </Fragment>
      ))}
      {text.slice(cuts.at(-1)?.to ?? 0)}
    </span>
  );
}

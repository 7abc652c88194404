import { type Block, type Formatted, type Inline, type Mark } from '@zawn/core';
import { Fragment, type ReactNode } from 'react';

function marked(text: ReactNode, mark: Mark): ReactNode {
  switch (mark.type) {
    case 'bold':
      return <b>{text}</b>;
    case 'italic':
      return <i>{text}</i>;
    case 'strike':
      return <s>{text}</s>;
    case 'link':
      return (
        <a href={mark.attrs.href} target="_blank" rel="noreferrer noopener">
          {text}
        </a>
      );
  }
}

function inlineOf(inline: Inline): ReactNode {
  if (inline.type === 'hardBreak') return <br />;
  if (inline.type === 'mention') return <span className="mention">@{inline.attrs.label}</span>;
  return (inline.marks ?? []).reduce(marked, inline.text as ReactNode);
}

const inlines = (content: readonly Inline[] = []) =>
  content.map((inline, index) => <Fragment key={index}>{inlineOf(inline)}</Fragment>);

const blocks = (content: readonly Block[]) =>
  content.map((block, index) => <Part key={index} block={block} />);

function Part({ block }: { block: Block }) {
  switch (block.type) {
    case 'paragraph':
      return <p>{inlines(block.content)}</p>;
    case 'heading':
      return <h4>{inlines(block.content)}</h4>;
    case 'blockquote':
      return <blockquote>{blocks(block.content)}</blockquote>;
    default: {
      const items = block.content.map(({ content }, index) => <li key={index}>{blocks(content)}</li>);
      return block.type === 'bulletList' ? <ul>{items}</ul> : <ol>{items}</ol>;
    }
  }
}

/** A formatted text as it is read. */
export function FormattedText({ doc }: { doc: Formatted }) {
  return <>{blocks(doc.content)}</>;
}

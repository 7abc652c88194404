import { type Design, type Question } from '@zawn/core';
import { useState, type MouseEvent } from 'react';
import { DESIGN } from '../../kernel/questions/list-address';

/** What a figure would go to stands beside it instead, unless it is to go to another page or tab. */
export function useBeside() {
  const [beside, setBeside] = useState<Question>();
  const openBeside = (event: MouseEvent) => {
    const link = (event.target as Element).closest('a');
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
    const href = link.getAttribute('href') ?? '';
    // Further down is another report, not records.
    if (href.startsWith('/reports')) return;
    const text = new URLSearchParams(href.slice(href.indexOf('?'))).get(DESIGN);
    if (text === null) return;
    event.preventDefault();
    setBeside((JSON.parse(text) as Design).question);
  };
  return { beside, openBeside, close: () => setBeside(undefined) };
}

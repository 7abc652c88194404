import { number } from '../../platform/frame/format';

/** How much more or less it is than in the period before; nothing where it is the same. */
export function Change({ now, before }: { now: number; before: number }) {
  // Figures stand in one line with those that changed.
  if (now === before) return <span className="board-more" />;
  const by = number(Math.abs(now - before));
  return (
    <span className={now > before ? 'board-more' : 'board-less'}>
      <span aria-hidden>
        {now > before ? '▴' : '▾'}
        {by}
      </span>
      <span className="visually-hidden">{now > before ? `, ${by} more` : `, ${by} fewer`} than before</span>
    </span>
  );
}

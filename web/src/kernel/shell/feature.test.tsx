import { type TimelineEntry } from '@zawn/core';
import { Ruler } from 'lucide-react';
import { renderToStaticMarkup } from 'react-dom/server';
import { FeatureProvider, timelineKind, useBrought, type Feature, type SheetProps } from './feature';

const first: Feature = {
  places: [{ path: '/leads', label: 'Leads', group: 'Find', letter: 'l', icon: Ruler }],
  sheets: { account: { Head: () => <i>head of the first</i> } },
};

/** A feature that exists in tests only: estimates on accounts. */
const estimates: Feature = {
  pages: [{ path: 'estimates', lazy: () => Promise.resolve({ Component: () => null }) }],
  places: [{ path: '/estimates', label: 'Estimates', group: 'Win', letter: 'q', icon: Ruler }],
  sheets: { account: { Head: () => <i>head of the second</i>, Beside: () => <i>its estimates</i> } },
  timeline: [
    timelineKind({
      kind: 'note',
      shownAs: 'Estimates',
      Sign: () => <b>sign</b>,
      Line: ({ entry }) => <span>estimate {String(entry.record.name)}</span>,
      who: ({ record }) => Number(record.createdBy),
    }),
  ],
};

const shown = (part: React.ReactNode) =>
  renderToStaticMarkup(<FeatureProvider value={[first, estimates]}>{part}</FeatureProvider>);

function Places() {
  return useBrought('places').map(({ path, label }) => (
    <a key={path} href={path}>
      {label}
    </a>
  ));
}

function Sheet() {
  const parts = useBrought('sheets').flatMap((sheets) => sheets.account ?? []);
  const props = {} as SheetProps;
  return parts.flatMap(({ Head, Beside }, index) => [
    Head && <Head key={`head ${index}`} {...props} />,
    Beside && <Beside key={`beside ${index}`} {...props} />,
  ]);
}

function Entry({ entry }: { entry: TimelineEntry }) {
  const kind = useBrought('timeline').find(({ kind: each }) => each === entry.kind);
  return kind ? (
    <p>
      <kind.Sign entry={entry} />
      <kind.Line entry={entry} /> {kind.who(entry)}
    </p>
  ) : null;
}

describe('what features bring', () => {
  it('stands in the order of the features', () => {
    expect(shown(<Places />)).toBe('<a href="/leads">Leads</a><a href="/estimates">Estimates</a>');
  });

  it('shows on the sheets of the objects it is meant for', () => {
    expect(shown(<Sheet />)).toBe('<i>head of the first</i><i>head of the second</i><i>its estimates</i>');
  });

  it('tells entries of the timeline that nobody else knows', () => {
    const entry = { kind: 'note', at: '2026-11-19T08:00:00Z', id: 1, record: { name: 'Quay', createdBy: 7 } };
    expect(shown(<Entry entry={entry as unknown as TimelineEntry} />)).toBe(
      '<p><b>sign</b><span>estimate Quay</span> 7</p>',
    );
  });

  it('is nothing where nobody brings any', () => {
    expect(renderToStaticMarkup(<Places />)).toBe('');
  });
});

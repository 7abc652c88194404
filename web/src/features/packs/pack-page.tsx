import { MOST_PAGES, type DashboardChoice, type PackPage, type PageContent } from '@zawn/core';
import { Button } from 'antd';
import { Pencil, Plus, Presentation, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useWrite } from '../../platform/api/use-write';
import { date } from '../../platform/frame/format';
import { moved, MoveButtons } from '../../platform/frame/move-buttons';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { Empty } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { ChoiceBar } from '../dashboards/choice-bar';
import '../dashboards/dashboards.css';
import { RecordsBeside } from '../reports/records-beside';
import '../reports/reports.css';
import { useBeside } from '../reports/use-beside';
import { FrozenRecords } from '../snapshots/frozen-records';
import { usePlace } from '../snapshots/place-address';
import '../snapshots/snapshots.css';
import { AddPage } from './add-page';
import { KeepPack } from './keep-pack';
import { PackActions } from './pack-actions';
import { pageKinds, usePageName } from './page-name';
import { PageView, type ShownPage } from './page-view';
import { notedNames, pagesShown } from './pages-shown';
import './packs.css';
import { PageDialog } from './page-dialog';
import { WithPack, type PackProps } from './with-pack';

const NO_CHOICE: DashboardChoice = {};

/** A meeting pack: its pages in their order, and the one that is looked at. */
export function Component() {
  return <WithPack Show={PackPageView} />;
}

function PackPageView({ at, shown }: PackProps) {
  const { design, name } = shown;
  const { policy, person } = useSession();
  const [parameters] = useSearchParams();
  const navigate = useNavigate();
  const write = useWrite();
  const [dialog, setDialog] = useState<'add' | 'keep'>();
  const [changing, setChanging] = useState<PackPage>();
  const { beside, openBeside, close } = useBeside();
  const { place, close: closePlace } = usePlace();
  const pack = shown.kind === 'kept' ? shown.pack : undefined;
  const isMine = pack !== undefined && policy.mayChangeShared('pack', pack);
  const all = pagesShown(shown);
  const wanted = parameters.get('page');
  const page = all.find(({ key }) => key === wanted) ?? all.at(0);
  const nameOf = usePageName(design.pages);
  const choice = design.choice ?? NO_CHOICE;
  const present = () =>
    void navigate(
      `/packs/${at}/present${page ? `?${new URLSearchParams({ page: page.key }).toString()}` : ''}`,
    );
  useShortcuts('Meeting pack', [{ keys: 'f', does: 'Present it full screen', run: present }]);
  const change = (pages: readonly PackPage[], more: object = {}) => {
    if (!pack) return;
    const body = { design: JSON.stringify({ ...design, pages, ...more }) };
    write.mutate({ method: 'PATCH', path: `/packs/${pack.id}`, version: pack.version, body });
  };
  const add = (content: PageContent) => {
    const keys = new Set(design.pages.map(({ key }) => key));
    let count = design.pages.length + 1;
    while (keys.has(`p${count}`)) count += 1;
    const key = `p${count}`;
    change([...design.pages, { ...content, key }]);
    setDialog(undefined);
    void navigate(`?${new URLSearchParams({ page: key }).toString()}`);
  };
  const isFull = design.pages.length >= MOST_PAGES;
  const titleOf = (each: ShownPage) => (each.kind === 'noted' ? notedNames[each.key] : nameOf(each));
  const side = beside ?? place;
  return (
    <div className={side ? 'report-page report-page-beside' : 'report-page'}>
      <div className="report">
        <header className="page-head view-head">
          <h1>{name}</h1>
          <span className="page-count">
            {pack
              ? [
                  pack.meetsOn ? date(pack.meetsOn) : '',
                  `${person(pack.owner)?.name ?? 'someone who left'}’s`,
                ]
                  .filter(Boolean)
                  .join(', ')
              : 'ready-made'}
          </span>
          <div className="page-tools">
            {!pack && (
              <Button type="primary" onClick={() => setDialog('keep')}>
                Make it my own
              </Button>
            )}
            <Button
              type={pack ? 'primary' : 'default'}
              icon={<Presentation size={15} />}
              onClick={present}
              disabled={all.length === 0 || undefined}
            >
              Present
            </Button>
            {pack && <PackActions pack={pack} design={design} isMine={isMine} />}
          </div>
        </header>
        {isMine && (
          <div className="dashboard-for-all">
            <ChoiceBar choice={choice} choose={(next) => change(design.pages, { choice: next })} />
          </div>
        )}
        <div className="pack-body">
          <nav className="pack-pages" aria-label="Pages">
            <ol>
              {all.map((each, index) => {
                const own = each.kind === 'noted' ? undefined : each;
                const place = own ? design.pages.indexOf(own) : -1;
                return (
                  <li key={each.key} className={each === page ? 'pack-page-chosen' : ''}>
                    <Link
                      to={`?${new URLSearchParams({ page: each.key }).toString()}`}
                      aria-current={each === page ? 'page' : undefined}
                    >
                      <span className="figure second">{index + 1}</span>
                      <span className="clip">{titleOf(each)}</span>
                      {own && <span className="second">{pageKinds[own.kind]}</span>}
                    </Link>
                    {own && isMine && (
                      <span className="pack-page-tools">
                        <MoveButtons
                          name={`“${titleOf(each)}”`}
                          at={place}
                          count={design.pages.length}
                          move={(step) => change(moved(design.pages, place, step))}
                        />
                        <button
                          type="button"
                          className="icon-button"
                          aria-label={`Change “${titleOf(each)}”`}
                          onClick={() => setChanging(own)}
                        >
                          <Pencil size={13} aria-hidden />
                        </button>
                        <button
                          type="button"
                          className="icon-button"
                          aria-label={`Take “${titleOf(each)}” away`}
                          onClick={() => change(design.pages.filter(({ key }) => key !== own.key))}
                        >
                          <Trash2 size={13} aria-hidden />
                        </button>
                      </span>
                    )}
                  </li>
                );
              })}
            </ol>
            {isMine && (
              <Button
                type="text"
                icon={<Plus size={15} />}
                disabled={isFull || undefined}
                onClick={() => setDialog('add')}
              >
                {isFull ? `A pack has at most ${MOST_PAGES} pages` : 'Add a page'}
              </Button>
            )}
          </nav>
          <section
            className="pack-page-shown"
            aria-label={page ? titleOf(page) : 'Page'}
            onClickCapture={openBeside}
          >
            {page ? (
              <>
                <h2>{titleOf(page)}</h2>
                <PageView page={page} choice={choice} keep={{ page: page.key }} />
              </>
            ) : (
              <Empty title="No pages yet.">
                <p>
                  Reports, snapshots, dashboards and notes, in the order in which the meeting looks at them.
                </p>
              </Empty>
            )}
          </section>
        </div>
      </div>
      {beside ? (
        <RecordsBeside question={beside} close={close} />
      ) : (
        place &&
        page?.kind === 'snapshot' && (
          <FrozenRecords snapshot={page.snapshot} place={place} close={closePlace} />
        )
      )}
      {dialog === 'add' && <AddPage pick={add} close={() => setDialog(undefined)} />}
      {dialog === 'keep' && (
        <KeepPack
          title="Make this pack my own"
          name={name}
          design={design}
          close={() => setDialog(undefined)}
        />
      )}
      {changing && (
        <PageDialog
          page={changing}
          name={nameOf(changing)}
          save={(next) => change(design.pages.map((each) => (each.key === next.key ? next : each)))}
          close={() => setChanging(undefined)}
        />
      )}
    </div>
  );
}

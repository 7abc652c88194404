import {
  BellRing,
  Ellipsis,
  KeyRound,
  Keyboard,
  LockKeyhole,
  LogOut,
  Moon,
  Plus,
  Settings2,
  Sun,
  UserRound,
} from 'lucide-react';
import { useIsFetching } from '@tanstack/react-query';
import { ConfigProvider } from 'antd';
import { Suspense, useState, type ReactNode } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { useNotices } from '../../platform/api/use-write';
import { useLiveUpdates } from '../../platform/api/live-updates';
import { Bell } from '../notices/bell';
import { useSession, useSignOut } from '../../platform/sessions/session';
import { useOwnMode } from '../../platform/sessions/own-mode';
import { AddProvider, useAdd, type Addable } from './adding';
import '../../platform/frame/frame.css';
import './setup-page.css';
// Its place is kept before it is fetched.
import '../records/sheet.css';
import { BarMenu } from '../../platform/frame/bar-menu';
import { PersonMark } from '../../platform/frame/person-mark';
import { Pinned } from '../views/pinned';
import { GoAnywhere } from './go-anywhere';
import { Mark } from '../../platform/frame/mark';
import { ResultProvider, useOpening } from '../../platform/frame/opening';
import { useBrought } from './feature';
import { frameLetters, groupsOf, type Place } from './places';
import { useHome } from './use-home';
import { usePlaces } from './use-places';
import { useAdditions } from './use-additions';
import { usePhone } from '../../platform/frame/use-phone';
import { ShortcutProvider, useShortcuts } from '../../platform/frame/shortcuts';
import { Skeleton } from '../../platform/frame/states';
import { lazyPart } from '../../platform/frame/lazy-part';

const Sheet = lazyPart(
  async () => (await import('../records/sheet')).default,
  () => (
    <aside className="sheet">
      <Skeleton rows={8} />
    </aside>
  ),
);
const ShortcutHelp = lazyPart(async () => (await import('../../platform/frame/shortcut-help')).default);

function AddMenu() {
  const add = useAdd();
  const additions = useAdditions();
  const items = additions.map(({ object, label, letter }) => ({
    key: object,
    label,
    extra: <kbd>{`c ${letter}`}</kbd>,
  }));
  return (
    <BarMenu className="bar-button" label="Add" menu={{ items, onClick: ({ key }) => add(key as Addable) }}>
      <Plus size={17} aria-hidden />
    </BarMenu>
  );
}

function PersonMenu({ showKeyboard }: { showKeyboard: () => void }) {
  const { me } = useSession();
  const [mode, setMode] = useOwnMode();
  const signOut = useSignOut();
  const navigate = useNavigate();
  const items = [
    { key: 'who', disabled: true, label: me.jobTitle ? `${me.name}, ${me.jobTitle}` : me.name },
    {
      key: 'keyboard',
      label: 'Keyboard',
      icon: <Keyboard size={14} />,
      extra: <kbd>?</kbd>,
      onClick: showKeyboard,
    },
    {
      key: 'theme',
      label: mode === 'dark' ? 'Light colours' : 'Dark colours',
      icon: mode === 'dark' ? <Sun size={14} /> : <Moon size={14} />,
      onClick: () => setMode(mode === 'dark' ? 'light' : 'dark'),
    },
    {
      key: 'profile',
      label: 'Your profile',
      icon: <UserRound size={14} />,
      onClick: () => void navigate('/profile'),
    },
    {
      key: 'sign-in',
      label: 'Your sign-in',
      icon: <LockKeyhole size={14} />,
      onClick: () => void navigate('/sign-in'),
    },
    {
      key: 'notices',
      label: 'Notices and being away',
      icon: <BellRing size={14} />,
      onClick: () => void navigate('/notices'),
    },
    {
      key: 'tokens',
      label: 'API tokens',
      icon: <KeyRound size={14} />,
      onClick: () => void navigate('/tokens'),
    },
    { key: 'out', label: 'Sign out', icon: <LogOut size={14} />, onClick: () => void signOut() },
  ];
  return (
    <BarMenu className="bar-person" menu={{ items }}>
      <PersonMark {...me} />
      <span className="visually-hidden">{me.name}: settings and sign-out</span>
    </BarMenu>
  );
}

function RailGroup({ title, places }: { title: string; places: readonly Place[] }) {
  return (
    <div className="rail-group">
      <span className="rail-title">{title}</span>
      {places.map(({ path, label, icon: Icon }) => (
        <NavLink key={path} to={path} end={path === '/'} title={label}>
          <Icon size={16} aria-hidden />
          <span>{label}</span>
        </NavLink>
      ))}
    </div>
  );
}

/** Where one can go, in groups; setting up stands at the foot. */
function Rail({ places }: { places: readonly Place[] }) {
  const setup = places.filter(({ group }) => group === 'Setup');
  return (
    <nav className="rail" aria-label="Main">
      {groupsOf(places).map((group) => (
        <RailGroup key={group} title={group} places={places.filter((place) => place.group === group)} />
      ))}
      <Pinned />
      {setup.length > 0 && (
        <div className="rail-foot">
          <NavLink to="/setup" title="Setup">
            <Settings2 size={16} aria-hidden />
            <span>Setup</span>
          </NavLink>
        </div>
      )}
    </nav>
  );
}

/** On a phone: four places one goes to all day, and *More* for the rest. */
function PhoneBar({ places }: { places: readonly Place[] }) {
  const { pathname } = useLocation();
  const isIn = ({ path }: Place) => (path === '/' ? pathname === '/' : pathname.startsWith(path));
  const shown = places.filter(({ onPhone }) => onPhone);
  const here = shown.find(isIn);
  return (
    <nav className="phone-bar" aria-label="Main">
      {shown.map((place) => (
        <Link key={place.path} to={place.path} aria-current={place === here ? 'page' : undefined}>
          <place.icon size={19} aria-hidden />
          {place.onPhone}
        </Link>
      ))}
      <Link to="/more" aria-current={here ? undefined : 'page'}>
        <Ellipsis size={19} aria-hidden />
        More
      </Link>
    </nav>
  );
}

/** The way back from a section of Setup. */
function Above() {
  const { pathname } = useLocation();
  return pathname.startsWith('/setup/') ? (
    <nav className="above" aria-label="Above">
      <Link to="/setup">Setup</Link>
    </nav>
  ) : null;
}

function SheetBeside() {
  const { opened } = useOpening();
  return opened && <Sheet opened={opened} />;
}

/** Around everything; says while something is read for the first time that the page is not whole yet. */
function Whole({ children }: { children: ReactNode }) {
  const isBusy = useIsFetching({ predicate: ({ state }) => state.data === undefined }) > 0;
  return (
    <div className="frame" aria-busy={isBusy}>
      {children}
    </div>
  );
}

/** A page of Setup whose records somebody may not change is there to be looked at. */
function LookedAt({ children }: { children: ReactNode }) {
  const { policy } = useSession();
  const { pathname } = useLocation();
  const { sets } = usePlaces().find(({ path }) => pathname === path || pathname.startsWith(`${path}/`)) ?? {};
  const isLookedAt = sets !== undefined && !policy.allows(sets, 'edit');
  return (
    <ConfigProvider componentDisabled={isLookedAt}>
      {isLookedAt && <p className="looked-at">Your role lets you look at this, not change it.</p>}
      {children}
    </ConfigProvider>
  );
}

function FrameInside() {
  const [isHelpOpen, setHelpOpen] = useState(false);
  const navigate = useNavigate();
  const add = useAdd();
  const { undo } = useNotices();
  const places = usePlaces();
  const isPhone = usePhone();
  const additions = useAdditions();
  const docked = useBrought('Docked');
  useLiveUpdates();
  useHome();
  useShortcuts('Anywhere', [
    { keys: '?', does: 'Show what the keyboard does', run: () => setHelpOpen(true) },
    { keys: `g ${frameLetters.notices}`, does: 'Notices', run: () => void navigate('/notices') },
    ...(places.some(({ group }) => group === 'Setup')
      ? [{ keys: `g ${frameLetters.setup}`, does: 'Setup', run: () => void navigate('/setup') }]
      : []),
    { keys: 'z', does: 'Undo what was written last', run: () => void undo() },
  ]);
  useShortcuts(
    'Go to',
    places.map(({ path, label, letter }) => ({
      keys: `g ${letter}`,
      does: label,
      run: () => void navigate(path),
    })),
  );
  useShortcuts(
    'Add',
    additions.map(({ object, label, letter }) => ({
      keys: `c ${letter}`,
      does: label,
      run: () => add(object),
    })),
  );
  return (
    <Whole>
      <header className="bar">
        <Link to="/" className="bar-name">
          <Mark />
          Zawn
        </Link>
        <GoAnywhere />
        <AddMenu />
        <Bell />
        <PersonMenu showKeyboard={() => setHelpOpen(true)} />
      </header>
      {isPhone ? <PhoneBar places={places} /> : <Rail places={places} />}
      <main className="page">
        <Above />
        <Suspense fallback={<Skeleton rows={10} />}>
          <LookedAt>
            <Outlet />
          </LookedAt>
        </Suspense>
      </main>
      <SheetBeside />
      {docked.map((Docked, index) => (
        <Docked key={index} />
      ))}
      {isHelpOpen && <ShortcutHelp close={() => setHelpOpen(false)} />}
    </Whole>
  );
}

/** What stands around every page: the bar, the rail, and the sheet beside it. */
export function Frame() {
  return (
    <ShortcutProvider>
      <ResultProvider>
        <AddProvider>
          <FrameInside />
        </AddProvider>
      </ResultProvider>
    </ShortcutProvider>
  );
}

'use client';

import { MoonOutlined, QuestionOutlined, SunOutlined } from '@ant-design/icons';
import { Button, Segmented } from 'antd';
import { Link } from '@/ui/link';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { PERSON_COOKIE } from '@/core/person-cookie';
import type { PackName } from '@/core/units/measures';
import { usePrefs } from '../theme/prefs';
import { useCommands } from './commands';
import { CutOff } from './cut-off';
import { Found } from './found';
import styles from './shell.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';
import { later } from '@/ui/later';
import { loadChecks } from '@/ui/checks';
import { useWhenTouched } from '@/ui/touched';

/** Comes when it is asked for. */
const ShowAround = later(() => import('./show-around').then((m) => m.ShowAround));
const Finder = later(() => import('./finder').then((m) => m.Finder));

const PACKS: { label: string; value: PackName; title: string }[] = [
  { label: msg.us, value: 'us', title: msg.inchesInh2oHp },
  { label: msg.metric, value: 'metric', title: msg.millimetresKpaKw },
  { label: msg.mixed, value: 'mixed', title: msg.millimetresKpaHpCfm },
];

const ROOMS = [
  { href: '/shelf', name: 'Shelf', hint: msg.throttleBodies },
  { href: '/bench', name: 'Bench', hint: msg.flowRecords },
  { href: '/sums', name: 'Sums', hint: msg.quickAnswers },
  { href: '/practice', name: 'Practice', hint: msg.aSimulatedDynoWithAHidden },
] as const;

const KEYS: readonly (readonly [string, string])[] = [
  ['1 – 7', 'go to a step of the open job'],
  ['/', 'search or run a command'],
  ['?', 'this list'],
  ['Ctrl Z, Ctrl Shift Z', 'undo and redo in a job'],
  ['↑ ↓ in a field', 'a step up or down; with Shift ten steps'],
  ['← → on the rpm handle', 'move it by 50 rpm; with Shift by 500'],
  ['Esc', 'close what is open'],
];

const YEAR_S = 31_536_000;
const rememberPerson = (name: string): void => {
  document.cookie = `${PERSON_COOKIE}=${encodeURIComponent(name)}; path=/; max-age=${YEAR_S}; samesite=strict`;
};

function signOut(): void {
  // The pages this browser kept for use without a network are somebody's cars: they go with who looked at them.
  const { serviceWorker } = navigator as { serviceWorker?: ServiceWorkerContainer };
  serviceWorker?.controller?.postMessage({ type: 'forget' });
  void fetch('/api/sign-in', { method: 'DELETE' }).then(() => location.assign('/sign-in'));
}

function Brand() {
  return (
    <Link href="/" className={styles['brand']} aria-label={msg.vannerAllJobs}>
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
        <circle cx="8" cy="8" r="6" fill="none" stroke="currentColor" strokeWidth="2" />
        <path d="M3.6 10.6 12.4 5.4" stroke="currentColor" strokeWidth="2" />
      </svg>
      {msg.vanner}
    </Link>
  );
}

type Opened = 'find' | 'help' | 'tour' | null;

/** What find-or-do offers on every page. */
function useShellCommands(signedIn: boolean, setOpen: (what: Opened) => void): void {
  const { setPack, theme, setTheme } = usePrefs();
  const router = useRouter();
  const offer = useCommands((s) => s.offer);
  useEffect(() => {
    offer('shell', [
      { id: 'go-jobs', title: msg.allJobs, hint: msg.go, run: () => router.push('/') },
      ...ROOMS.map((r) => ({ id: `go-${r.name}`, title: r.name, hint: r.hint, run: () => router.push(r.href) })),
      { id: 'theme', title: msg.lightOrDark, hint: msg.switchWord, run: () => setTheme(theme === 'dark' ? 'light' : 'dark') },
      ...PACKS.map((p) => ({ id: `pack-${p.value}`, title: `${p.label} units`, hint: p.title, run: () => setPack(p.value) })),
      { id: 'go-settings', title: msg.shopSettings, hint: msg.peopleUnitsPaperPassphrase, run: () => router.push('/settings') },
      { id: 'go-thinking', title: msg.howVannerThinks, hint: msg.waysToSizeStatisticsEveryWord, run: () => router.push('/thinking') },
      { id: 'go-trash', title: msg.trash, hint: msg.bringSomethingBack, run: () => router.push('/trash') },
      ...(signedIn ? [{ id: 'sign-out', title: msg.signOut, hint: msg.leaveThisBrowser, run: signOut }] : []),
      { id: 'go-keys', title: msg.apiKeys, hint: msg.go, run: () => router.push('/keys') },
      { id: 'tour', title: msg.showMeAround, hint: msg.whatIsWhereOnThisPage, run: () => setOpen('tour') },
      { id: 'help', title: msg.shortcuts, hint: msg.help, run: () => setOpen('help') },
    ]);
  }, [offer, router, setPack, setTheme, theme, signedIn, setOpen]);
}

/** Who works at this screen: one of the shop's people stands under what is saved from it. */
function WhoIsHere({ people, person: person0 }: { people: readonly string[]; person: string }) {
  const [person, setPerson] = useState(person0);
  return (
    <select
      className={styles['person']}
      aria-label={msg.whoIsAtThisScreen}
      value={people.includes(person) ? person : ''}
      onChange={(e) => {
        setPerson(e.target.value);
        rememberPerson(e.target.value);
      }}
    >
      <option value="">{msg.workingAs}</option>
      {people.map((n) => (
        <option key={n} value={n}>
          {n}
        </option>
      ))}
    </select>
  );
}

/** The keys, and where to read on. */
function Help({ open, setOpen }: { open: boolean; setOpen: (what: Opened) => void }) {
  return (
    <Dialog open={open} title={msg.shortcuts} footer={null} onCancel={() => setOpen(null)} width={480}>
      <dl className={styles['keys']}>
        {KEYS.map(([key, does]) => (
          <div key={key} style={{ display: 'contents' }}>
            <dt>{key}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <div className={styles['more']}>
        <p>
          <Button size="small" onClick={() => setOpen('tour')}>
            {msg.showMeAroundThisPage}
          </Button>
        </p>
        <p className="quiet">{msg.anyFieldTakesAnyUnit2}</p>
        <p>
          <Link href="/thinking" onClick={() => setOpen(null)}>
            {msg.howVannerThinks}
          </Link>
          {msg.waysToSizeWhatTheStatistics}
        </p>
        <p className="quiet">
          {msg.otherProgramsReadAndWriteHere}{' '}
          <Link href="/keys" onClick={() => setOpen(null)}>
            {msg.api}
          </Link>
          {msg.whatWasThrownAwayLiesIn}{' '}
          <Link href="/trash" onClick={() => setOpen(null)}>
            {msg.trash2}
          </Link>
          {msg.peopleUnitsPaperAndThePassphrase}{' '}
          <Link href="/settings" onClick={() => setOpen(null)}>
            {msg.settings}
          </Link>
          .
        </p>
      </div>
    </Dialog>
  );
}

/** The frame every page sits in: top bar, keys, find-or-do, help. */
export function Shell({
  shop,
  people = [],
  person = '',
  signedIn = false,
  children,
}: {
  shop: string;
  /** Who works here: one of them stands under what is saved from this screen. */
  people?: readonly string[];
  person?: string;
  /** The shop has a passphrase, and this browser gave it. */
  signedIn?: boolean;
  children: ReactNode;
}) {
  const { packName, setPack, theme, setTheme } = usePrefs();
  const path = usePathname();
  const [open, setOpen] = useState<Opened>(null);
  useWhenTouched(loadChecks);
  useHotkeys('/', () => setOpen('find'), { preventDefault: true, useKey: true });
  useHotkeys('?', () => setOpen('help'), { useKey: true, preventDefault: true });
  useShellCommands(signedIn, setOpen);
  return (
    <>
      <a href="#content" className={styles['skip']}>
        {msg.skipToTheContent}
      </a>
      <header className={`${styles['bar']} no-print`}>
        <Brand />
        <span className={styles['shop']}>{shop}</span>
        <nav className={styles['nav']} aria-label={msg.sections}>
          <Link href="/" aria-current={path === '/' || path.startsWith('/jobs') ? 'page' : undefined}>
            {msg.jobs}
          </Link>
          {ROOMS.map((room) => (
            <Link key={room.href} href={room.href} aria-current={path.startsWith(room.href) ? 'page' : undefined}>
              {room.name}
            </Link>
          ))}
        </nav>
        <button type="button" data-tour="search" className={styles['find']} onClick={() => setOpen('find')}>
          <span>
            {msg.search}
            <span className={styles['long']}> {msg.orRunACommand}</span>
          </span>{' '}
          <span className={styles['key']}>/</span>
        </button>
        {people.length > 0 && <WhoIsHere people={people} person={person} />}
        <Segmented<PackName> data-tour="units" size="small" aria-label={msg.units} options={PACKS} value={packName} onChange={setPack} />
        <button
          type="button"
          className={styles['icon']}
          aria-label={theme === 'dark' ? 'Switch to light' : 'Switch to dark'}
          onClick={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
        >
          {theme === 'dark' ? <SunOutlined aria-hidden /> : <MoonOutlined aria-hidden />}
        </button>
        <button type="button" className={styles['icon']} aria-label={msg.shortcutsAndHelp} onClick={() => setOpen('help')}>
          <QuestionOutlined aria-hidden />
        </button>
      </header>
      <main id="content" tabIndex={-1} className={styles['main']}>
        {children}
      </main>
      <Found />
      <CutOff />
      {open === 'find' && <Finder onClose={() => setOpen(null)} />}
      {open === 'tour' && <ShowAround onClose={() => setOpen(null)} />}
      <Help open={open === 'help'} setOpen={setOpen} />
    </>
  );
}

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

/** The frame every page sits in: top bar, keys, find-or-do, help. */
export function Shell({
  shop,
  people = [],
  person: person0 = '',
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
  const [person, setPerson] = useState(person0);
  const { packName, setPack, theme, setTheme } = usePrefs();
  const router = useRouter();
  const path = usePathname();
  const [open, setOpen] = useState<'find' | 'help' | 'tour' | null>(null);
  const offer = useCommands((s) => s.offer);
  useWhenTouched(loadChecks);
  useHotkeys('/', () => setOpen('find'), { preventDefault: true, useKey: true });
  useHotkeys('?', () => setOpen('help'), { useKey: true, preventDefault: true });
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
  }, [offer, router, setPack, setTheme, theme, signedIn]);
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
        {people.length > 0 && (
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
        )}
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
      {open === 'find' && <Finder onClose={() => setOpen(null)} />}
      {open === 'tour' && <ShowAround onClose={() => setOpen(null)} />}
      <Dialog open={open === 'help'} title={msg.shortcuts} footer={null} onCancel={() => setOpen(null)} width={480}>
        <dl className={styles['keys']}>
          {KEYS.map(([key, does]) => (
            <div key={key} style={{ display: 'contents' }}>
              <dt>{key}</dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
        <p style={{ marginTop: 16 }}>
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
      </Dialog>
    </>
  );
}

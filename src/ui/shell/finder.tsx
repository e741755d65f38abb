'use client';

import { Input, Modal } from 'antd';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { send } from '../post';
import { useCommands, type Command } from './commands';
import styles from './shell.module.css';

/** What the shop's records answer with. */
interface Found {
  readonly kind: 'job' | 'unit' | 'part' | 'run' | 'visit' | 'pass' | 'note';
  readonly id: string;
  readonly title: string;
  readonly job: { readonly id: string; readonly name: string } | null;
  readonly snippet: string;
}

const KINDS: Readonly<Record<Found['kind'], string>> = {
  job: 'job',
  unit: 'on the shelf',
  part: 'on the bench',
  run: 'run',
  visit: 'day at the strip',
  pass: 'pass',
  note: 'note',
};

function addressOf(f: Found): string {
  const job = f.job ? `/jobs/${f.job.id}` : '';
  switch (f.kind) {
    case 'job':
      return `${job}/air`;
    case 'unit':
      return '/shelf';
    case 'part':
      return '/bench';
    case 'run':
      return `${job}/test`;
    case 'visit':
    case 'pass':
      return `${job}/test?view=strip`;
    case 'note':
      return `${job}/install`;
  }
}

/** Typing rests this long before the records are asked, ms. */
const REST_ms = 150;
const SHORTEST = 2;

/** What the records hold of a few words, asked for as they are typed. */
function useFound(text: string): { found: readonly Found[]; wrong: string | null } {
  const [state, setState] = useState<{ of: string; found: readonly Found[]; wrong: string | null }>({ of: '', found: [], wrong: null });
  const wanted = text.trim();
  useEffect(() => {
    if (wanted.length < SHORTEST) return;
    let current = true;
    const timer = setTimeout(() => {
      send<Found[]>('GET', `/api/search?q=${encodeURIComponent(wanted)}`)
        .then((found) => current && setState({ of: wanted, found, wrong: null }))
        .catch((e: Error) => current && setState({ of: wanted, found: [], wrong: e.message }));
    }, REST_ms);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [wanted]);
  return state.of === wanted ? state : { found: [], wrong: null };
}

/** Search or run a command: type a few letters, Enter takes the first. Commands come first, then what the records hold. */
export function Finder({ onClose }: { onClose: () => void }) {
  const router = useRouter();
  const groups = useCommands((s) => s.groups);
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const { found, wrong } = useFound(text);
  const hits = useMemo(() => {
    const commands = matching(Object.values(groups).flat(), text);
    const known = new Set(commands.map((c) => c.id));
    const records = found.flatMap((f): Command[] =>
      known.has(f.id)
        ? []
        : [
            {
              id: `${f.kind}-${f.id}`,
              title: f.title,
              hint: [KINDS[f.kind], f.kind === 'job' ? null : f.job?.name, f.snippet].filter(Boolean).join(' · '),
              run: () => router.push(addressOf(f)),
            },
          ],
    );
    return [...commands, ...records];
  }, [groups, text, found, router]);
  const take = (command: Command | undefined): void => {
    if (!command) return;
    onClose();
    command.run();
  };
  return (
    <Modal open title="Search or run a command" footer={null} onCancel={onClose} width={560} destroyOnHidden>
      <Input
        autoFocus
        aria-label="Search or run a command"
        placeholder="A car, a unit, a run, a note; or something to do"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt((k) => Math.min(hits.length - 1, k + 1));
          else if (e.key === 'ArrowUp') setAt((k) => Math.max(0, k - 1));
          else if (e.key === 'Enter') take(hits[at]);
          else return;
          e.preventDefault();
        }}
      />
      <ul className={styles['hits']}>
        {hits.map((c, i) => (
          <li key={c.id}>
            <button type="button" className={styles['hit']} data-at={i === at} onClick={() => take(c)}>
              <span>{c.title}</span>
              <span className="quiet">{c.hint}</span>
            </button>
          </li>
        ))}
        {hits.length === 0 && <li className="quiet">{wrong ?? 'Nothing is called that.'}</li>}
      </ul>
    </Modal>
  );
}

function matching(commands: readonly Command[], text: string): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return commands.filter((c) => words.every((w) => `${c.title} ${c.hint}`.toLowerCase().includes(w))).slice(0, 30);
}

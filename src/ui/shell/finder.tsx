'use client';

import { AutoComplete } from 'antd';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { send } from '../post';
import { useCommands, type Command } from './commands';
import styles from './shell.module.css';
import { Dialog } from '@/ui/dialog';
import { msg } from './messages';

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

/** Where the very thing is: its page, and on the page itself. */
function addressOf(f: Found): string {
  const job = f.job ? `/jobs/${f.job.id}` : '';
  switch (f.kind) {
    case 'job':
      return `${job}/air`;
    case 'unit':
      return `/shelf?unit=${f.id}&found=${f.id}`;
    case 'part':
      return `/bench?subject=${f.id}&found=${f.id}`;
    case 'run':
      return `${job}/test?found=${f.id}`;
    case 'visit':
      return `${job}/test?view=strip&day=${f.id}`;
    case 'pass':
      return `${job}/test?view=strip&found=${f.id}`;
    case 'note':
      return `${job}/install?found=${f.id}`;
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
  const { found, wrong } = useFound(text);
  const [commands, records] = useMemo(() => {
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
    return [commands, records];
  }, [groups, text, found, router]);
  const option = (c: Command) => ({
    value: c.id,
    // What is read aloud: the list that a reader of the screen hears holds the values, and those are ids.
    'aria-label': c.hint ? `${c.title}, ${c.hint}` : c.title,
    label: (
      <span className={styles['hit']}>
        <span>{c.title}</span>
        <span className="quiet">{c.hint}</span>
      </span>
    ),
  });
  const sections = [
    { label: msg.goOrDo, list: commands },
    { label: msg.inTheRecords, list: records },
  ].filter((s) => s.list.length > 0);
  return (
    <Dialog open title={msg.searchOrRunACommand} footer={null} onCancel={onClose} width={560} destroyOnHidden>
      <div className={styles['finder']}>
        <AutoComplete
          open
          autoFocus
          defaultActiveFirstOption
          aria-label={msg.searchOrRunACommand}
          placeholder={msg.aCarAThrottleARun}
          style={{ width: '100%' }}
          listHeight={320}
          value={text}
          showSearch={{ filterOption: false, onSearch: setText }}
          options={sections.map(({ label, list }) => ({ label, options: list.map(option) }))}
          notFoundContent={wrong ?? 'Nothing is called that.'}
          getPopupContainer={(at) => at.parentElement!}
          onSelect={(id: string) => {
            const command = [...commands, ...records].find((c) => c.id === id);
            onClose();
            command?.run();
          }}
          onInputKeyDown={(e) => e.key === 'Escape' && onClose()}
        />
      </div>
    </Dialog>
  );
}

function matching(commands: readonly Command[], text: string): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return commands.filter((c) => words.every((w) => `${c.title} ${c.hint}`.toLowerCase().includes(w))).slice(0, 30);
}

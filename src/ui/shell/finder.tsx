'use client';

import { Input, Modal } from 'antd';
import { useMemo, useState } from 'react';
import { useCommands, type Command } from './commands';
import styles from './shell.module.css';

/** Find or do: type a few letters, Enter takes the first. */
export function Finder({ onClose }: { onClose: () => void }) {
  const groups = useCommands((s) => s.groups);
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const hits = useMemo(() => matching(Object.values(groups).flat(), text), [groups, text]);
  const take = (command: Command | undefined): void => {
    if (!command) return;
    onClose();
    command.run();
  };
  return (
    <Modal open title="Find or do" footer={null} onCancel={onClose} width={520} destroyOnHidden>
      <Input
        autoFocus
        aria-label="Find or do"
        placeholder="A job, a stop, something to do"
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
        {hits.length === 0 && <li className="quiet">Nothing is called that.</li>}
      </ul>
    </Modal>
  );
}

function matching(commands: readonly Command[], text: string): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return commands.filter((c) => words.every((w) => `${c.title} ${c.hint}`.toLowerCase().includes(w))).slice(0, 30);
}

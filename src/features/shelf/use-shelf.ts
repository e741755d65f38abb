'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { StoredUnit, UnitDoc } from '@/core/documents/unit';
import { checksSoon } from '@/ui/checks';
import { send, type Refused } from '@/ui/post';

/** Typing settles before a save, ms. */
const SAVE_AFTER_MS = 500;

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'refused' | 'conflict';

export interface ShelfState {
  readonly units: readonly StoredUnit[];
  readonly save: SaveState;
  /** Why the last save was refused, or what is not valid yet. */
  readonly wrong: string | null;
  readonly edit: (id: string, doc: UnitDoc) => void;
  readonly add: (docs: readonly UnitDoc[]) => Promise<readonly StoredUnit[]>;
  readonly duplicate: (id: string) => Promise<StoredUnit>;
  readonly retire: (id: string) => Promise<void>;
  /** Back on the shelf after it was taken off. */
  readonly restore: (unit: StoredUnit) => Promise<void>;
  /** After a conflict: theirs instead of mine, or mine over theirs. */
  readonly takeTheirs: () => void;
  readonly keepMine: () => void;
}

/** The shelf's units as edited here, each saved on its own once it is whole and its typing has settled. */
export function useShelfRoom(initial: readonly StoredUnit[]): ShelfState {
  const [units, setUnits] = useState(initial);
  const [save, setSave] = useState<SaveState>('saved');
  const [wrong, setWrong] = useState<string | null>(null);
  const latest = useRef(units);
  /** As the server has them: what was amiss there already keeps nothing from being saved. */
  const asKept = useRef(new Map(initial.map((u) => [u.id, u.doc])));
  const dirty = useRef(new Set<string>());
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const theirs = useRef<StoredUnit | null>(null);

  const put = useCallback((change: (list: readonly StoredUnit[]) => readonly StoredUnit[]): void => {
    latest.current = change(latest.current);
    setUnits(latest.current);
  }, []);

  const flush = useCallback(async (): Promise<void> => {
    if (dirty.current.size === 0) return;
    const checks = await checksSoon();
    for (const id of [...dirty.current]) {
      const unit = latest.current.find((u) => u.id === id);
      if (!unit) continue;
      const before = asKept.current.get(id);
      const parsed = checks ? checks.checkedChange(checks.unitDoc, before, unit.doc) : { success: true as const, data: unit.doc };
      if (!parsed.success) {
        setSave('unsaved');
        setWrong('a figure beside this cannot be; it says what could');
        continue;
      }
      setSave('saving');
      dirty.current.delete(id);
      try {
        const saved = await send<StoredUnit>('PUT', `/api/units/${id}`, { version: unit.version, doc: parsed.data });
        asKept.current.set(id, saved.doc);
        put((list) => list.map((u) => (u.id === id ? { ...u, version: saved.version } : u)));
        setWrong(null);
        setSave(dirty.current.size > 0 ? 'unsaved' : 'saved');
      } catch (error) {
        dirty.current.add(id);
        const refused = error as Refused;
        theirs.current = refused.status === 409 ? (refused.data['current'] as StoredUnit) : null;
        setSave(refused.status === 409 ? 'conflict' : 'refused');
        setWrong(refused.message);
      }
    }
  }, [put]);

  const later = useCallback((): void => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void flush(), SAVE_AFTER_MS);
  }, [flush]);

  useEffect(() => {
    // A tab that closes with something unsaved asks first: nothing typed is lost unsaid.
    const ask = (e: BeforeUnloadEvent): void => {
      if (dirty.current.size > 0) e.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => {
      window.removeEventListener('beforeunload', ask);
      clearTimeout(timer.current);
      void flush();
    };
  }, [flush]);

  const edit = useCallback(
    (id: string, doc: UnitDoc): void => {
      put((list) => list.map((u) => (u.id === id ? { ...u, doc } : u)));
      dirty.current.add(id);
      setSave((s) => (s === 'conflict' ? s : 'unsaved'));
      later();
    },
    [put, later],
  );
  const add = useCallback(
    async (docs: readonly UnitDoc[]): Promise<readonly StoredUnit[]> => {
      const added = await send<StoredUnit[]>('POST', '/api/units', { units: docs });
      put((list) => [...list, ...added]);
      return added;
    },
    [put],
  );
  const duplicate = useCallback(
    async (id: string): Promise<StoredUnit> => {
      const [copy] = await send<StoredUnit[]>('POST', '/api/units', { duplicateOf: id });
      put((list) => [...list, copy!]);
      return copy!;
    },
    [put],
  );
  const retire = useCallback(
    async (id: string): Promise<void> => {
      await send('PATCH', `/api/units/${id}`, { retired: true });
      dirty.current.delete(id);
      put((list) => list.filter((u) => u.id !== id));
    },
    [put],
  );
  const restore = useCallback(
    async (unit: StoredUnit): Promise<void> => {
      await send('PATCH', `/api/units/${unit.id}`, { retired: false });
      put((list) => [...list, unit]);
    },
    [put],
  );
  const settle = (mine: boolean): void => {
    const current = theirs.current;
    if (!current) return;
    theirs.current = null;
    put((list) => list.map((u) => (u.id === current.id ? (mine ? { ...u, version: current.version } : current) : u)));
    if (!mine) dirty.current.delete(current.id);
    setWrong(null);
    setSave(mine ? 'unsaved' : 'saved');
    if (mine) later();
  };
  return { units, save, wrong, edit, add, duplicate, retire, restore, takeTheirs: () => settle(false), keepMine: () => settle(true) };
}

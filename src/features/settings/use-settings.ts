'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { issuesOf } from '@/core/documents/issue';
import { shopSettingsDoc, type ShopSettings } from '@/core/documents/shop';
import { Refused, send } from '@/ui/post';

/** A change of the settings, made on them as they are when it is saved. */
export type SettingsEdit = (now: ShopSettings) => Partial<ShopSettings>;

export interface SettingsState {
  readonly doc: ShopSettings;
  /** What is wrong with the last change, or why it is not saved. */
  readonly wrong: string | null;
  /** Changes that wait because the server is away. */
  readonly waits: boolean;
  /** Whether the change can be: what cannot is told and not made. */
  readonly save: (edit: SettingsEdit) => boolean;
  readonly tryAgain: () => void;
}

const URL = '/api/shop/settings';
const withEdits = (doc: ShopSettings, edits: readonly SettingsEdit[]): ShopSettings =>
  edits.reduce((now, edit) => ({ ...now, ...edit(now) }), doc);

/**
 * The shop's settings, each change saved at once. It is made on what the server has by then: a page that was opened this morning
 * takes back nothing another window or person has settled since. While the server is away changes wait, and go with the next.
 */
export function useSettings(settings: ShopSettings): SettingsState {
  const router = useRouter();
  const [doc, setDoc] = useState(settings);
  const [wrong, setWrong] = useState<string | null>(null);
  const [waits, setWaits] = useState(false);
  const unsaved = useRef<readonly SettingsEdit[]>([]);
  const running = useRef(false);
  const flush = async (): Promise<void> => {
    if (running.current) return;
    running.current = true;
    let now: ShopSettings | null = null;
    try {
      while (unsaved.current.length > 0) {
        const edits = unsaved.current;
        now = await send<ShopSettings>('GET', URL);
        const saved = await send<ShopSettings>('PUT', URL, withEdits(now, edits));
        unsaved.current = unsaved.current.slice(edits.length);
        setDoc(withEdits(saved, unsaved.current));
      }
      setWaits(false);
      setWrong(null);
      router.refresh();
    } catch (error) {
      const refused = error instanceof Refused && error.status >= 400 && error.status < 500;
      // What the server will not take does not wait: the page shows what stands there.
      if (refused) unsaved.current = [];
      if (refused && now) setDoc(now);
      setWaits(!refused);
      setWrong(`Not saved: ${(error as Error).message}`);
    } finally {
      running.current = false;
    }
  };
  const save = (edit: SettingsEdit): boolean => {
    const parsed = shopSettingsDoc.safeParse(withEdits(doc, [edit]));
    if (!parsed.success) {
      setWrong(issuesOf(parsed.error)[0]?.message ?? 'That value is not possible.');
      return false;
    }
    setDoc(parsed.data);
    unsaved.current = [...unsaved.current, edit];
    void flush();
    return true;
  };
  return { doc, wrong, waits, save, tryAgain: () => void flush() };
}

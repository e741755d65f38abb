'use client';

import { createContext, useCallback, useContext, useEffect, useState, type ReactNode } from 'react';

type Tell = (field: string, wrong: boolean) => void;
const Group = createContext<Tell | null>(null);

/** Tells the group around a field that it shows what was not taken. */
export function useInGroup(field: string, wrong: boolean): void {
  const tell = useContext(Group);
  useEffect(() => {
    if (!tell || !wrong) return undefined;
    tell(field, true);
    return () => tell(field, false);
  }, [tell, field, wrong]);
}

/** Fields of which something is made together: it waits while one of them shows a figure that was not taken. */
export function FieldGroup({ children }: { children: (wrong: boolean) => ReactNode }) {
  const [fields, setFields] = useState<readonly string[]>([]);
  const tell = useCallback<Tell>((field, wrong) => setFields((now) => (wrong ? [...now, field] : now.filter((f) => f !== field))), []);
  return <Group value={tell}>{children(fields.length > 0)}</Group>;
}

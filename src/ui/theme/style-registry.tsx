'use client';

import { createCache, extractStyle, StyleProvider } from '@ant-design/cssinjs';
import { useServerInsertedHTML } from 'next/navigation';
import { useState, type ReactNode } from 'react';

type Cache = ReturnType<typeof createCache>;

/** More than Ant Design has components in two themes; beyond it the server begins anew. */
const MOST = 400;
const made = new Map<string, unknown>();

/**
 * A page's own cache of the component library's variables, of which each is made once for the whole server: they hang on the
 * theme alone, which is part of their name, and making them anew was a fifth of a page's time. A page is still given only the
 * variables of what stands on it.
 */
export function rememberingCache(): Cache {
  const cache = createCache();
  const update = cache.opUpdate.bind(cache);
  cache.opUpdate = (path, change) =>
    update(path, (before) => {
      const known = made.get(path);
      const next = change(before ?? (known === undefined ? before : [0, known]));
      if (next && known === undefined) {
        if (made.size >= MOST) made.clear();
        made.set(path, next[1]);
      }
      return next;
    });
  return cache;
}

/** Puts the variables of the components on a page into its head, so that it comes in its colours. */
export function StyleRegistry({ children }: { children: ReactNode }) {
  const [cache] = useState(() => (typeof window === 'undefined' ? rememberingCache() : createCache()));
  useServerInsertedHTML(() => {
    const text = extractStyle(cache, { plain: true, once: true, types: ['token', 'cssVar'] });
    return text.includes('--') ? (
      <style id="antd-cssinjs" data-rc-order="prepend" data-rc-priority="-1000" dangerouslySetInnerHTML={{ __html: text }} />
    ) : null;
  });
  return <StyleProvider cache={cache}>{children}</StyleProvider>;
}

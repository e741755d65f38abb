'use client';

import { useMemo } from 'react';

/** What the server packed into one text; the same thing for as long as the text is the same. */
export const useUnpacked = <T>(text: string & { readonly of?: T }): T => useMemo(() => JSON.parse(text) as T, [text]);

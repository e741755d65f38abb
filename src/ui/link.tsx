'use client';

import NextLink from 'next/link';
import { useState, type ComponentProps } from 'react';

/**
 * A way to another page. The frame would have every page that a link in view leads to prepared by the server, two requests each
 * and a score of them for every page opened; this one asks for a page when a hand or the keyboard comes to its link.
 */
export function Link(props: Omit<ComponentProps<typeof NextLink>, 'prefetch' | 'onMouseEnter' | 'onTouchStart' | 'onFocus'>) {
  const [near, setNear] = useState(false);
  const comes = (): void => setNear(true);
  return <NextLink {...props} prefetch={near ? null : false} onMouseEnter={comes} onTouchStart={comes} onFocus={comes} />;
}

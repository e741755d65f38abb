import type { ReactNode } from 'react';
import { useListens } from './listens';

/**
 * The many small controls beside what a page says: they do nothing before it listens, and on a long list they cost the server more
 * than all the rest of it. Until then `hold` stands in their place.
 */
export const WhenListening = ({ hold = null, children }: { hold?: ReactNode; children: ReactNode }): ReactNode =>
  useListens() ? children : hold;

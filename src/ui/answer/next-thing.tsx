import { Link } from '@/ui/link';
import type { ReactNode } from 'react';
import styles from './stop.module.css';

/** An empty place: what will stand here, and the next thing to do about it. */
export function NextThing({ shows, links }: { shows: ReactNode; links: readonly { readonly to: string; readonly text: string }[] }) {
  return (
    <div className={styles['next']}>
      <p>{shows}</p>
      <p className={styles['nextLinks']}>
        {links.map(({ to, text }) => (
          <Link key={to} href={to}>
            {text}
          </Link>
        ))}
      </p>
    </div>
  );
}

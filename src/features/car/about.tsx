'use client';

import { useState } from 'react';
import { useJob } from '@/features/job/provider';
import styles from './car.module.css';
import { msg } from './messages';
import { later } from '@/ui/later';

/** Comes when it is opened. */
const AboutFields = later(() => import('./about-fields').then((m) => m.AboutFields));

/** Whose car it is and which: all optional; on the customer's page only what is ticked. */
export function About() {
  const owner = useJob((s) => s.doc.about.owner);
  const plate = useJob((s) => s.doc.about.plate);
  const [open, setOpen] = useState(false);
  const said = [owner, plate].filter(Boolean).join(', ');
  return (
    <details className={styles['about']} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>
        {msg.ownerAndCar} <span className="quiet">{said || msg.allOptional}</span>
      </summary>
      {open && <AboutFields />}
    </details>
  );
}

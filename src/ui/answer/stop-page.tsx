import type { ReactNode } from 'react';
import { Ready } from './ready';
import { Unbroken } from './unbroken';
import styles from './stop.module.css';

/** A stop's page: the answer, the picture that proves it, and the controls and numbers in one column beside it. */
export function StopPage({
  answer,
  reason,
  tone,
  children,
  aside,
  wideAside = false,
}: {
  answer: ReactNode;
  reason?: ReactNode;
  tone?: 'danger' | undefined;
  children: ReactNode;
  aside: ReactNode;
  wideAside?: boolean;
}) {
  return (
    <div className={styles['stop']} data-aside={wideAside ? 'wide' : 'normal'}>
      <section className={styles['middle']}>
        <h1 className={styles['answer']} data-tone={tone} data-tour="answer">
          {typeof answer === 'string' ? <Unbroken>{answer}</Unbroken> : answer}
        </h1>
        {reason && <p className={styles['reason']}>{reason}</p>}
        {children}
        <Ready />
      </section>
      <aside className={styles['aside']} data-tour="aside">
        <div className={styles['held']}>{aside}</div>
      </aside>
    </div>
  );
}

/**
 * Several views of one stop, each a page of its own, and over them what chooses among them. The choice stays where it is while a
 * view comes: a press and the keys' focus find it, and it does not move with the length of an answer.
 */
export function Views({ choice, children }: { choice: ReactNode; children: ReactNode }) {
  return (
    <div className={styles['views']}>
      <div className={styles['choice']}>{choice}</div>
      {children}
    </div>
  );
}

export function Heading({ children, more }: { children: ReactNode; more?: ReactNode }) {
  return (
    <div className={styles['heading']}>
      <h2 className="label">{children}</h2>
      {more}
    </div>
  );
}

export function Pair({ name, children }: { name: ReactNode; children: ReactNode }) {
  return (
    <div className={styles['pair']}>
      <span>{name}</span>
      {children}
    </div>
  );
}

export const Rule = () => <hr className={styles['rule']} />;

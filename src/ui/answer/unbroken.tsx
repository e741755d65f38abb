import styles from './stop.module.css';

/** A sentence whose figures do not part from their units at the end of a line. The text itself stays as it is. */
export function Unbroken({ children }: { children: string }) {
  return children.split(/(\S*\d \S+)/).map((part, i) =>
    i % 2 === 1 ? (
      <span key={i} className={styles['whole']}>
        {part}
      </span>
    ) : (
      part
    ),
  );
}

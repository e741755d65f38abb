import styles from './stop.module.css';

/** A text whose figures stay with what follows them, by spaces that do not break: for long texts, which are read over and not copied. */
export const unbroken = (text: string): string => text.replace(/(\d) (?=\S)/g, '$1\u00a0');

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

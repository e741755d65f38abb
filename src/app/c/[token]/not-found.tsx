import styles from '@/features/customer/customer.module.css';

export default function Gone() {
  return (
    <main className={styles['gone']}>
      <h1>This link has expired or been revoked.</h1>
      <p className="quiet">It may have run out or been taken back. Ask the shop for a new one.</p>
    </main>
  );
}

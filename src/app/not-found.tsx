import Link from 'next/link';

export default function NotFound() {
  return (
    <div style={{ padding: '48px 24px', maxWidth: 560 }}>
      <h1 style={{ fontFamily: 'var(--font-condensed)', fontSize: 27, lineHeight: '32px' }}>There is no such page here.</h1>
      <p className="quiet" style={{ margin: '8px 0 16px' }}>
        The job may have been removed, or the address is not whole.
      </p>
      <Link href="/">All jobs</Link>
    </div>
  );
}

'use client';

import { Button } from 'antd';

/** `retry` asks the server for the page anew; to draw it once more (`reset`) would only meet the same failure. */
export default function Failed({ retry }: { error: Error; retry: () => void }) {
  return (
    <div style={{ padding: '48px 24px', maxWidth: 560 }}>
      <h1 style={{ fontFamily: 'var(--font-condensed)', fontSize: 27, lineHeight: '32px' }}>This page could not be put together.</h1>
      <p className="quiet" style={{ margin: '8px 0 16px' }}>
        The database is away, or something is wrong on the server, or the server has a newer Vanner than this page: then reload it. Nothing
        saved is lost; what you typed in this browser is kept here.
      </p>
      <div style={{ display: 'flex', gap: 8 }}>
        <Button type="primary" onClick={retry}>
          Try again
        </Button>
        <Button onClick={() => location.reload()}>Reload the page</Button>
      </div>
    </div>
  );
}

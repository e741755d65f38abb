'use client';

import { useCallback, useEffect, useState, type ComponentType } from 'react';

/** What is shown in the place of a part that did not come, with which it is asked for again. */
export interface Away {
  readonly again: () => void;
}

/**
 * In the place of a part that could not be fetched. What React once got for a part is what it keeps, so a failure would stay until
 * the page is opened anew: this asks again whenever the part is wanted, and shows `Instead` while it does not come.
 */
export const refetched = <P extends object>(load: () => Promise<ComponentType<P>>, Instead: ComponentType<P & Away>): ComponentType<P> =>
  function Refetched(props: P) {
    const [Part, setPart] = useState<ComponentType<P> | null>(null);
    const [failed, setFailed] = useState(false);
    const ask = useCallback(() => {
      load().then(
        (part) => setPart(() => part),
        () => setFailed(true),
      );
    }, []);
    useEffect(ask, [ask]);
    const again = useCallback(() => {
      setFailed(false);
      ask();
    }, [ask]);
    if (Part) return <Part {...props} />;
    return failed ? <Instead {...props} again={again} /> : null;
  };

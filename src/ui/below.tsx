'use client';

import { Skeleton } from 'antd';
import { useEffect, useRef, useState, type ComponentType } from 'react';
import { whenTouched } from './touched';

/** A page that has been still for so long has what it shows first; then the rest comes of itself, ms. */
const STILL_ms = 2500;
/** What will soon be in view is fetched before it is, px. */
const NEAR_px = 300;

/**
 * A part far down a page that comes with code of its own: fetched when its place comes near the window, at the first sign of
 * somebody at the page, or a moment after the page has come to rest; until then as many grey lines stand in its place. What
 * could not be fetched is tried again at the next sign.
 */
export function below<P extends object>(load: () => Promise<ComponentType<P>>, lines: number): ComponentType<P> {
  let known: ComponentType<P> | null = null;
  return function Below(props: P) {
    const place = useRef<HTMLDivElement>(null);
    const [Part, setPart] = useState(() => known);
    useEffect(() => {
      if (Part) return undefined;
      let asked = false;
      let untouched = (): void => {};
      const fetch = (): void => {
        if (asked) return;
        asked = true;
        load().then(
          (part) => {
            known = part;
            setPart(() => part);
          },
          () => {
            asked = false;
            untouched = whenTouched(fetch);
          },
        );
      };
      untouched = whenTouched(fetch);
      const near = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && fetch(), { rootMargin: `${NEAR_px}px` });
      near.observe(place.current!);
      const rest = setTimeout(fetch, STILL_ms);
      return () => {
        near.disconnect();
        clearTimeout(rest);
        untouched();
      };
    }, [Part]);
    if (Part) return <Part {...props} />;
    return (
      <div ref={place} aria-busy="true">
        <Skeleton active={false} title={false} paragraph={{ rows: lines }} />
      </div>
    );
  };
}

/**
 * A place on this very server to go on to; never another one. Judged by what a browser makes of it: it drops tabs and line
 * ends, and takes a backslash for a slash.
 */
export function placeOf(to: string | null, origin: string): string {
  if (to === null || !to.startsWith('/')) return '/';
  try {
    const url = new URL(to, origin);
    return url.origin === origin ? `${url.pathname}${url.search}${url.hash}` : '/';
  } catch {
    return '/';
  }
}

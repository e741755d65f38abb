/** Every fixed text of ui/field: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  readAs: 'Read as',
  unusualIn: 'Unusual in',
  meant: '. Meant',

  n18Apr2026: '18 Apr 2026',
} as const;

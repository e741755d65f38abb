/** Every fixed text of ui/field, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // quantity-input.tsx
  readAs: 'Read as',
  unusualIn: 'Unusual in',
  meant: '. Meant',

  // when.tsx
  n18Apr2026: '18 Apr 2026',
} as const;

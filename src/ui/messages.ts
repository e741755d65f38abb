/** Every fixed text of ui: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  undo: 'Undo',
} as const;

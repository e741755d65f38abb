/** Every fixed text of ui, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // undo.tsx
  undo: 'Undo',
} as const;

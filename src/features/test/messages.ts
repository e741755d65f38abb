/** Every fixed text of features/test: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  partOfTheTest: 'Part of the test',
  letGoToTakeTheFiles: 'Let go to take the files in',
} as const;

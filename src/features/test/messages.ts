/** Every fixed text of features/test: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  partOfTheTest: 'Part of the test',
  stripOrRoad: 'Strip or road',
  strip: 'At the strip',
  road: 'On a road',
  letGoToTakeTheFiles: 'Let go to take the files in',
} as const;

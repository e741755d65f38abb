/** Every fixed text of features/trash: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  nothingInHereCountsInA:
    'Nothing in here counts in a comparison or is found by a search. Nothing is ever thrown away for good from here: files, samples and records stay whole.',
  aFileDroppedIntoItsJob: 'A file dropped into its job again brings its runs back too.',
  what: 'what',
  name: 'name',
  ofWord: 'of',
  thrownAway: 'thrown away',
  bringBack: 'Bring back',
} as const;

/** Every fixed text of features/history: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  history: 'History',

  itHasNotBeenChangedSince: 'It has not been changed since it was made.',
  asItIsNow: 'as it is now',
  restore: 'Restore',
  theOldestThatIsKept: 'the oldest that is kept',
  and: 'and',
  more: 'more',
} as const;

/** Every fixed text of ui: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  undo: 'Undo',
  thisView: 'This view',
  this: 'This',
  serverAway: 'could not be fetched: the server cannot be reached.',
  pageOld: 'could not be fetched although the server answers: it may have a newer Vanner than this page.',
  thenAgain: 'Try again when it is back; what stands on the page is kept.',
  thenReload: 'Reload the page; what was typed is kept.',
  whatWasTypedIsKept: 'What was typed is kept. The views that were open before are still here.',
  columnsNotUsed: 'Columns not used:',
  noUnitNamedReadAs: 'No unit is named, so read as:',
  nameAnotherInTheHeader: 'Is it another? Write it in brackets behind the column’s name.',
  tryAgain: 'Try again',
  reloadThePage: 'Reload the page',
} as const;

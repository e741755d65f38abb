/** Every fixed text of ui/working: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  theWorkingCouldNotBeFetched: 'The working could not be fetched: the server cannot be reached.',
  tryAgain: 'Try again',
  settingTheFormulas: 'Setting the formulas…',
} as const;

/** Every fixed text of ui/working: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  theWorkingCouldNotBeFetched: 'The working could not be fetched from the server. Try again when it is back.',
  settingTheFormulas: 'Setting the formulas…',
} as const;

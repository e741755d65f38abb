/** Every fixed text of ui/working: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  theWorking: 'The working',
  settingTheFormulas: 'Setting the formulas…',
} as const;

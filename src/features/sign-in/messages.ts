/** Every fixed text of features/sign-in: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  vanner: 'Vanner',
  theShopsPassphrase: 'The shop’s passphrase',
  theShopsPassphrase2: 'the shop’s passphrase',
  thatCodeWasUsedAlreadyOr: 'That code was used already or has run out. Make a new one on the shop’s screen, or sign in here.',
  signIn: 'Sign in',
} as const;

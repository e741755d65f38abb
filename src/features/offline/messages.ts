/** Every fixed text of features/offline: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  signInAgain: 'Sign in again',
  aNewReleaseIsHereWhat: 'A new release is here. What waits to be sent stays.',
  takeIt: 'Take it',
} as const;

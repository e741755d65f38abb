/** Every fixed text of features/keys, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // room.tsx
  whateverUsesItCanReadBut: 'Whatever uses it can read but no longer write.',
  revokeIt: 'Revoke it',
  theApiReadsWithoutAKey:
    'The API reads without a key, from this machine only. Writing, such as a dyno that sends its files by itself, needs one.',
  aNewKey: 'A new key',
  whatWillUseTheKey: 'What will use the key',
  theDynosComputer: 'the dyno’s computer',
  whatTheKeyMayDo: 'What the key may do',
  readAndWrite: 'read and write',
  readOnly: 'read only',
  whichJobsTheKeyOpens: 'Which jobs the key opens',
  allJobsAndTheShelf: 'all jobs and the shelf',
  makeAKey: 'Make a key',
  copyItNowItIsShown: 'Copy it now: it is shown this once.',
  theNewKey: 'The new key',
  noKeyYetMakeOneOn: 'No key yet: make one on the right for the program that is to write here.',
  usedBy: 'used by',
  may: 'may',
  made: 'made',
  lastUsed: 'last used',
  revoke: 'Revoke',
  openapiDocument: 'OpenAPI document',
  whatTheApiDoes: 'What the API does',
  apiV1: '/api/v1',
} as const;

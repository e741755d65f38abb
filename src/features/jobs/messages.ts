/** Every fixed text of features/jobs, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // board.tsx
  no: 'no.',
  car: 'car',
  foundSoFar: 'found so far',
  stops: 'stops',
  owner: 'owner',
  plateOrChassis: 'plate or chassis',
  who: 'who',
  lastTouched: 'last touched',
  duplicate: 'Duplicate',
  exportJob: 'Export job',
  putIntoTheTrash: 'Put into the trash',
  narrowTheBoard: 'Narrow the board',
  wordsInAJob: 'Words in a job',
  carOwnerPlateWords: 'car, owner, plate, words',
  touchedSince: 'Touched since',
  touchedSince2: 'touched since',
  showAll: 'Show all',
  withThoseChosen: 'With those chosen',
  chosen: 'chosen',
  exportWord: 'Export',
  newJob: 'New job',
  doWord: 'do',
  sizeAThrottleStepByStep: 'Size a throttle, step by step',
  removeTheExample: 'Remove the example',
  loadTheExample: 'Load the example',
  moreWaysToBegin: 'More ways to begin',

  // doors.tsx
  n19KeepIt: '+1.9 %, keep it',
  n58Mm: '58 mm?',
  n64Mm: '64 mm?',
  trueEffectHidden: 'true effect: hidden',
  tryAnExample: 'Try an example',
  aFinishedJobAMadeUp:
    'A finished job: a made-up 2.9 L straight six, measured, fitted, pulled on a dyno and driven at a strip. It can be removed in one click.',
  sizeAThrottleNow: 'Size a throttle now',
  nineFiguresAboutYourEngineAnd:
    'Nine figures about your engine and a bore you think of: what it would bring, under a minute. It becomes a job you can go on with.',
  sizeAThrottle: 'Size a throttle',
  practise: 'Practise',
  aSimulatedDynoWithAHidden:
    'A simulated dyno with a hidden truth. Plan, pull, decide, then be told what was true and what finding it cost.',
  practiseTesting: 'Practise testing',

  // new-job.tsx
  create: 'Create',
  name: 'Name',
  sparrowSaloon: 'Sparrow saloon',
  nearestEngine: 'Nearest engine',
  aStartOnlyEverythingItFills: 'A start only. Everything it fills in is marked assumed until you put in your own.',

  // take-in.tsx
  importAJob: 'Import a job',
} as const;

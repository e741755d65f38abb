/** Every fixed text of features/settings, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // own-history.tsx
  noStudyOfThisShopsOwn:
    'No study of this shop’s own yet: what a run, a refit and a day are worth is assumed. Every finished comparison counts, and so do repeat baselines; two runs each, strapped down anew between, are the cheapest.',
  howThisShopRepeats: 'How this shop repeats',
  movedByOne: 'moved by one',
  studies: 'studies',
  studiesBeforeSuchADayAnd: 'Studies before such a day, and those older than two years, are left out.',

  // own-units.tsx
  unitsOfSingleMeasures: 'Units of single measures',

  // room.tsx
  passphrase: 'Passphrase',
  currentPassphrase: 'Current passphrase',
  currentPassphrase2: 'current passphrase',
  newPassphrase: 'New passphrase',
  takeItAway: 'Take it away',
  namesStandUnderSignOffsAnd: 'Names stand under sign-offs and under what was changed. Everything here is saved as it is set.',
  theShop: 'The shop',
  name: 'Name',
  nameOfTheShop: 'Name of the shop',
  people: 'People',
  remove: 'Remove',
  anotherPerson: 'Another person',
  anotherName: 'another name',
  add: 'Add',
  whatNewScreensAndJobsStart: 'What new screens and jobs start with',
  unitsOfANewScreen: 'Units of a new screen',
  paper: 'Paper',
  currencySymbolAmountsAreNotConverted: 'Currency symbol (amounts are not converted)',
  currencySymbol: 'Currency symbol',
  labourRatePerHour: 'Labour rate per hour',
  whatItTakes: 'What the record takes',
  limitsOfSizingThatNewJobs: 'Limits of sizing that new jobs start with are set on the Pick step, under its limits.',

  // space.tsx
  allOfIt: 'the whole database',
  files: 'originals and photos',
  asTheyCame: 'as they came',
  runsAndLogs: 'runs and logs',
  jobs: 'jobs',
  largestFile: 'largest file taken',
  largestPicture: 'largest picture taken',
} as const;

/** Every fixed text of features/test/log, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // logger-stand-in.tsx
  practiceLogger: 'Practice logger',
  drivesThisJobsCarForA: 'Drives this job’s car for a minute: key on, idle, three stabs at the throttle, a pull. No real car.',
  onTheLoggedCar: 'On the logged car',
  stock: 'stock',
  whatIsOddAboutTheFile: 'What is odd about the file',
  itsIdleHunts: 'its idle hunts',
  rpmThrottle: 'rpm, throttle',
  writeAFile: 'Write a file',
  stop: 'Stop',
  driveLive: 'Drive live',

  // manners.tsx
  sayOfEachLogWhichSide: 'Say of each log which side it is, and idle and throttle answer stand here before and after.',
  drivabilityBeforeAndAfter: 'Drivability, before and after',
  newWord: 'new',
  difference: 'difference',

  // pedal-trace.tsx
  throttleAgainstPedalInEachLog: 'Throttle against pedal in each log',

  // pulls.tsx
  asFound: 'As found',
  pulls: 'Pulls',
  fromS: 'from, s',
  toS: 'to, s',
  rpm: 'rpm',
  gear: 'gear',
  setOneByHand: 'Set one by hand',

  // trust.tsx
  canItBeBelieved: 'Can it be believed?',
  takeDepressionsAgainstIt: 'Take depressions against it',
  withThePedalDownTheThrottle: 'With the pedal down the throttle was held back',
  ofTheTime: '% of the time',
  aLimitInTheTuneNot: ': a limit in the tune, not the bore.',

  // values-at.tsx
  valuesAtAnEngineSpeed: 'Values at an engine speed',
  asThePullPasses: 'As the pull passes',
  thePullNeverReaches: 'The pull never reaches',
  rpm2: 'rpm.',

  // view.tsx
  ofWord: 'of',
  atOnce: 'at once',
  channels: 'Channels',
  findAChannel: 'Find a channel',
  findAChannel2: 'find a channel',
  channelLaidOverOneAnother: 'Channel laid over one another',
  ofEachLogsPullOver: 'of each log’s pull over',
  base: 'Base',
  noLogsYetDropADatalog: 'No logs yet: drop a datalog anywhere on this page.',
  aTableOverTimeWithEngine:
    'A table over time with engine speed, throttle, manifold pressure or air flow. A file without power is taken for a log.',
  readingTheLog: 'Reading the log…',
  logs: 'Logs',
  logLookedInto: 'Log looked into',
  dragToMoveWheelToZoom: 'Drag to move, wheel to zoom, double click for all.',
  allOfIt: 'All of it',
  thePull: 'The pull',
} as const;

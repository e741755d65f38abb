/** Every fixed text of features/job, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // conflict.tsx
  takeTheirsMineStaysInUndo: 'Take theirs (mine stays in undo)',
  keepMine: 'Keep mine',
  whatYouTypedIsStillHere: 'What you typed is still here. Both of you changed',
  what: 'what',
  mine: 'mine',
  theirs: 'theirs',
  and: '… and',
  more: 'more.',

  // leak-fields.tsx
  fromABenchReadingBladeShut: 'From a bench reading, blade shut',
  takeIt: 'Take it',
  passesShut: 'Passes shut',
  flow: 'flow',
  atADepressionOf: 'at a depression of',
  closedSeal: 'Closed seal',
  bladeClearance: 'Blade clearance',
  fromABenchReadingBladeShut2: 'from a bench reading, blade shut',

  // limits.tsx
  blowerAtItsLimit: 'blower at its limit',
  surgesBelow: 'surges below',
  compressorsMapEnds: 'compressor’s map ends',

  // phone-link.tsx
  openOnAPhone: 'Open on a phone',
  codeToScan: 'Code to scan',
  scanItWithThePhonesCamera: 'Scan it with the phone’s camera. It opens this job’s',
  signedInOnceWithin: ', signed in, once, within',
  minutes: 'minutes.',
  orType: 'Or type:',

  // print-head.tsx
  no: 'No.',
  cylinders: 'cylinders',

  // spine.tsx
  nameOfTheJob: 'Name of the job',
  undo: 'Undo',
  ctrlZ: 'Ctrl Z',
  historyOfThisJob: 'History of this job',
  whoChangedWhatAndBack: 'who changed what, and back',
  exportThisJob: 'Export this job',
  theWholeJobAsOneArchive: 'the whole job as one archive',
  redo: 'Redo',
  ctrlShiftZ: 'Ctrl Shift Z',
  stepsOfThisJob: 'Steps of this job',
  unfold: 'unfold',
  fold: 'fold',
  history: 'history',
  exportJob: 'export job',
  thisJob: 'this job',
} as const;

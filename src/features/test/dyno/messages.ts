/** Every fixed text of features/test/dyno, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // fair.tsx
  fairComparison: 'Fair comparison?',
  worth: 'Worth',
  leftOutEachWithItsReason: 'left out, each with its reason.',

  // live-chart.tsx
  powerOverEngineSpeedAsIt: 'Power over engine speed, as it comes in',
  rpm: 'rpm',
  inlet: 'inlet',
  coolant: 'coolant',

  // live-pull.tsx
  stock: 'stock',
  practiceDyno: 'Practice dyno',
  simulatedTurnsThisJobsOwnEngine: 'Simulated: turns this job’s own engine with a day’s scatter, drift and heat soak. No real car.',
  onThePracticeDynosCar: 'On the practice dyno’s car',
  restBeforeThePullMin: 'Rest before the pull, min',
  sweepRpmASecond: 'Sweep, rpm a second',
  hideATrueEffectOfIts: 'hide a true effect of its own',
  thePullBrokeOffHalfA: 'The pull broke off: half a pull is none, nothing was kept. Pull again.',
  liftOff: 'Lift off',
  pull: 'Pull',

  // numbers.tsx
  decides: 'decides',
  to: 'to',
  peak: 'peak,',
  smoothed: 'smoothed',
  atRpm: 'at rpm',
  unsmoothed: 'unsmoothed',
  apart: 'apart',
  difference: 'difference',
  peakAgainstPeak: 'peak against peak',
  theNewSidesUnsmoothedPeakAgainst: 'The new side’s unsmoothed peak against stock’s smoothed one would read',
  aFalseGainOnlyEqualsAre: ': a false gain. Only equals are compared here.',
  inletAir: 'inlet air,',
  otherChannelsMean: 'other channels, mean',
  newWord: 'new',
  standsApart: 'stands apart',
  meanPowerOfEveryRunIn: 'Mean power of every run in the order they were driven, stock and new',
  meanOver: 'mean over',
  n95Interval: '95 % interval',
  answer: 'answer',

  // overlay.tsx
  newStock: 'new − stock',
  stockMean: 'stock, mean',
  newMean: 'new, mean',
  powerOfEachRunOverRpm: 'Power of each run over rpm at one smoothing and one correction',
  differenceOfTheNewSideFrom: 'Difference of the new side from stock over rpm in percent, with its 95 % band',
  channelBelowSameAxis: 'Channel below, same axis',
  channelBelow: 'Channel below',
  nothingMore: 'nothing more',

  // refit.tsx
  teachTheModel: 'Teach the model',
  drivetrainLossCrankToWheels: 'Drivetrain loss, crank to wheels',
  fitTheEfficiencyToTheStock: 'Fit the efficiency to the stock runs',
  aStockRunNeedsItsWeather: 'A stock run needs its weather first.',
  scaleThePathsLossesBy: 'Scale the path’s losses by',

  // runs-list.tsx
  whyWheelSlippedLiftedEarly: 'why? wheel slipped, lifted early…',
  leaveOut: 'Leave out',
  whichSide: 'which side?',
  details: 'details',
  count: 'count',
  leaveOut2: 'leave out',
  columnsGuessedCheck: 'columns guessed: check',
  leftOut: 'Left out:',
  order: 'Order:',

  // save-comparison.tsx
  exportWord: 'Export',
  csv: 'CSV',
  json: 'JSON',

  // settings.tsx
  smoothing: 'Smoothing',
  correction: 'Correction',
  theSameForEveryRun: 'the same for every run',
  over: 'Over',
  addABand: 'Add a band',
  bandsOfYourOwn: 'Bands of your own',
  revBandBetweenShifts: 'Rev band between shifts',
  shiftAt: 'Shift at',
  gearRatiosFirstGearFirst: 'Gear ratios, first gear first',
  gearRatios: 'Gear ratios',

  // view.tsx
  theRunsCannotBeReadJust: 'The runs cannot be read just now.',
  noRunsYetDropTheDynos: 'No runs yet: drop the dyno’s files anywhere on this page.',
  atLeastOneWithTheStock: 'At least one with the stock throttle on and one with the new one.',
  theStockSideIsMissing: 'The stock side is missing.',
  sayWhichOfTheseRunsHad: 'Say which of these runs had the stock throttle on, or drop one that did.',
  theNewSideIsMissing: 'The new side is missing.',
  sayWhichOfTheseRunsHad2: 'Say which of these runs had the new throttle on, or drop one that did.',
  theseRunsCannotBeComparedYet: 'These runs cannot be compared yet.',
  seeBesideEachRunWhatIs: 'See beside each run what is missing.',
  readingTheRuns: 'Reading the runs…',
  runs: 'Runs',
  dropFilesHereCommaSemicolonOr:
    'Drop files here: comma, semicolon or tab, decimal point or comma, with or without lines above the table. Or paste a table, or let the practice dyno pull.',
  theFolderSamplesOfThisInstallation: 'The folder samples/ of this installation has files to try.',
  hereThenStandBothSidesOver: 'Here then stand both sides over engine speed, the difference with its 95 % band, and whether it is a gain.',
  planTheDayFirst: 'Plan the day first',
  practiseOnASimulatedDyno: 'Practise on a simulated dyno',

  // widths.tsx
  whatMakesTheIntervalWide: 'What makes the interval wide',
  whatMakesTheIntervalWide2: 'what makes the interval wide',
  share: 'share',
  alone: 'alone ±',
  whichSizesAreMeasuredWhichAssumed: 'Which sizes are measured, which assumed',
  repeatBaselinesTwoRunsEachAnd:
    'Repeat baselines, two runs each and strapped down anew, put this shop’s own figures in the place of the assumed ones.',
} as const;

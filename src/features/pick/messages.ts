/** Every fixed text of features/pick, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // gain-chart.tsx
  stock: 'stock',
  predictedPowerAgainstStockOverRpm: 'Predicted power against stock over rpm for each throttle on show',
  predictedPowerOverRpmStockAnd: 'Predicted power over rpm, stock and throttles',

  // knee-chart.tsx
  manifoldAsItIs: 'manifold as it is',
  boredToMatch: 'bored to match',
  predictedPeakPowerAgainstThrottleBore:
    'Predicted peak power against throttle bore, with the bores that suit this engine and the shelf’s throttles on it',
  boreTried: 'Bore tried',

  // pedal-chart.tsx
  firstTenth: 'first tenth',
  effectiveOpenAreaOverThrottleOpening: 'Effective open area over throttle opening',

  // ranking-table.tsx
  throttleBody: 'throttle body',
  verdict: 'verdict',
  flowOnlyClaimed: 'flow only claimed',
  chokesFrom: 'chokes from',
  atPeak: 'at peak, %',
  atPeak2: 'at peak',
  thirds: 'thirds, %',
  tipIn: 'tip-in',
  idleFloorRpm: 'idle floor, rpm',
  price: 'price',

  // remap.tsx
  putAThrottleOnShowFirst: 'Put a throttle on show first.',
  unitRemappedTo: 'Throttle remapped to',
  csv: 'CSV',
  json: 'JSON',
  stockOpening: 'stock opening, %',
  letsIn: 'lets in,',
  opening: 'opening, %',

  // stop.tsx
  boreTried2: 'Bore tried:',
  rangesBeingDrawn: 'Ranges being drawn',
  stop: 'stop',
  ranges8Of10Of2: 'ranges: 8 of 10 of 2,000 simulated cases fall inside, the model’s own error among them',
  drawTheRanges: 'draw the ranges',
  manifoldBoreNow: 'Manifold bore, now',
  manifoldBore: 'Manifold bore',
  manifoldAsIs: 'manifold as is',
  boresToScale: 'Bores, to scale',
  hatchedTheManifoldAsItIs: 'Hatched: the manifold as it is. Bar: the stock shaft.',
  theShelfRanked: 'The shelf, ranked ·',
  ofWord: 'of',
  onShow: 'on show',
  hereThenStandTheThrottlesOf:
    'Here then stand the throttles of the shelf, ranked for this car by what they bring, what they cost and how the car drives with them.',
  putThrottleBodiesOnTheShelf: 'Put throttle bodies on the shelf',
  seeFirstWhetherStockRunsShort: 'See first whether stock runs short',
  lookAt: 'Look at',
  nothingCanBeComparedYet: 'Nothing can be compared yet.',
  putTheIntakeRightOnThe: 'Put the intake right on the Air step first.',

  // tolerances.tsx
  volumetricEfficiency: 'Volumetric efficiency',
  everyLoss: 'Every loss',
  benchFigures: 'Bench figures',
  blowersOwnEfficiency: 'Blower’s own efficiency',
  friction: 'Friction',
  inputsMayBeOffBy: 'Inputs may be off by',
  backToTheUsual: 'Back to the usual',
  n2000SimulatedCasesWithinThese: '2,000 simulated cases within these; 8 in 10 fall inside the range given.',

  // what-if.tsx
  asNow: 'as now',
  withAnotherBoost: 'With another boost',
  blowerPulley: 'Blower pulley',
  pressureRatio: 'Pressure ratio',
  highestBoost: 'Highest boost',
  boost: 'Boost',
  stockThrottleNow: '. Stock throttle: now',
  then: '; then',
  throttle: 'throttle',
  now: 'now',
  then2: 'then',

  // window-panel.tsx
  bore: 'bore',
  boresThatSuit: 'Bores that suit',
  nothingSuitsBoth: 'Nothing suits both:',
  wantsMoreThan: 'wants more than',
  allows: 'allows.',
  withWaves: 'With waves in the inlet',
  computeTheWaves: 'Compute the waves',
  evenFlowPeakPower: 'even flow: peak power',
  wavesAtPeakPower: 'waves: at peak power',
  wavesBetweenShifts: 'waves: between shifts',
  gulpsOfItsOwn:
    'One throttle to a cylinder: each sees its cylinder’s gulp, and a blade costs far more than the mean flow says. Where the two differ, believe the waves.',
  lengthAsStock: 'A throttle whose length is not known is taken as long as stock’s.',
  gulpsShared: 'The plenum evens out what the cylinders take; what is left of the gulps is in these figures.',
} as const;

/** Every fixed text of features/thinking: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  bore: 'bore',
  netAreaTheRingsInsideLess: 'net area: the ring’s inside less the shaft',
  aStepWhereTheBoresDiffer: 'a step where the bores differ',
  allowedLoss: 'allowed loss',
  runsShortFrom: 'runs short from',
  rpm: 'rpm',
  firstTenthOfThePedal: 'first tenth of the pedal',
  stockDashed: 'stock, dashed',
  aPointIsARunA: 'a point is a run, a box a stay, the row a visit',
  doesNotMatter: 'does not matter',
  n95Interval: '95 % interval',
  shut: 'shut',
  openNeverPastInLine: 'open, never past in line',

  whyOneRunEachTellsNothing: 'Why one run each tells nothing',
  theSameCarPulledTwiceDiffers:
    'The same car pulled twice differs by about half a percent. So a single run of each part can show a gain of one percent that is nothing but that scatter. Several runs make the mean surer.',
  whyManyRunsOfEachAre: 'Why many runs of each are still not enough',
  takingThePartOffPuttingThe:
    'Taking the part off, putting the other on and strapping the car down again moves the figure too, by about a third of a percent, and so does the day. Running ten times without touching the car does not make that smaller. Only putting stock back on does: that is why orders such as stock, new, stock, new tell far more than the same runs with one swap.',
  whatTheFourWordsMean: 'What the four words mean',
  gainAndLossAreSaidWhen:
    '“Gain” and “loss” are said when the 95 % interval lies wholly on that side of nothing. “No difference that matters” is said when the effect is 95 % sure to be below the smallest change that matters, which is set before the first run. All else is “can’t tell yet”, and then the page says what would tell, with its cost and its chance.',
  whatTheIntervalIs: 'What the interval is',
  in95Of100SuchTests:
    'In 95 of 100 such tests it holds the true effect. It is as wide as runs, refits, the day, drift and weather make it, each as large as this shop’s own tests have shown, or as assumed until there are some. The page names the widest part, because that is the one worth work.',
  whyLookingEarlyCostsSomething: 'Why looking early costs something',
  whoStopsAsSoonAsThe:
    'Who stops as soon as the figures look good stops on luck more often. Looks before the planned end therefore ask for more, and runs added after it do too.',
  howVannerThinksWhatItGoes: 'How Vanner thinks: what it goes by, and what its words mean.',
  nothingHereIsASecretOf:
    'Nothing here is a secret of the program. Every figure in it opens its own working; this page says why it is worked out so.',
  onThisPage: 'On this page',
  waysToSizeAThrottle: 'Ways to size a throttle',
  whatTheStatisticsMean: 'What the statistics mean',
  everyWordWithItsUnit: 'Every word, with its unit',
  waysToSizeAThrottleAnd: 'Ways to size a throttle, and why they differ',
  whatTheStatisticsMeanInPlain: 'What the statistics mean, in plain words',
  words: 'words',
  words2: 'Words',
  findAWord: 'Find a word',
  findAWord2: 'find a word',
  noWordLikeThatTheSearch: 'No word like that. The search above finds cars, parts and pages.',

  allWordsAndHowVannerThinks: 'All words, and how Vanner thinks',
} as const;

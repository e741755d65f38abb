/** Every fixed text of features/start, file by file: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  // drawing.tsx
  to: 'to',
  rpm: 'rpm',

  // page.tsx
  noBoostOneThrottle: 'no boost, one throttle',
  noBoostAThrottleForEach: 'no boost, a throttle for each cylinder',
  blowerBehindItsThrottle: 'blower behind its throttle',
  centrifugalBlowerAheadOfIt: 'centrifugal blower ahead of it',
  turboAheadOfIt: 'turbo ahead of it',
  predictedPowerAgainstStockOverRpm: 'Predicted power against stock over rpm',
  stock: 'stock',
  theBoreYouThinkOf: 'the bore you think of',
  soFar: 'So far',
  upTo: '× (up to',
  goOnWithIt: 'Go on with it',
  nameOfTheJob: 'Name of the job',
  theCarOrItsOwner: 'the car, or its owner',
  makeItAJob: 'Make it a job',
  theBoreYouThinkOfGoes: 'The bore you think of goes on the shelf as a throttle without figures of its own.',
  theEngine: 'The engine',
  cylinders: 'Cylinders',
  howItIsFilled: 'How it is filled',
  itsThrottle: 'Its throttle',
  itFlowsAt28Inh2o: 'It flows, at 28 inH₂O',
  notKnown: 'not known',
  whereTheFlowComesFrom: 'Where the flow comes from',
  aClaim: 'a claim',
  readOnABench: 'read on a bench',
  theBoreYouThinkOf2: 'The bore you think of',

  // practice-door.tsx
  practiseTheTruthIsHiddenThe: 'Practise: the truth is hidden, the dyno is simulated, and nobody’s engine gets hot.',
  planAsYouWouldRunAs:
    'Plan as you would, run as many pulls as you think it takes, decide, and be told what was true and what it cost you.',
  onWhichCar: 'On which car',
  thereIsNoJobYetPractice: 'There is no job yet: practice runs on the example, which is loaded as you begin and can be removed again.',
  carToPractiseOn: 'Car to practise on',
  begin: 'Begin',
  nothingOfAPracticeSessionIs: 'Nothing of a practice session is counted among the car’s own runs.',
} as const;

/** Every fixed text of features/flange: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  theInsideEdges: 'the inside edges',
  theOutsideEdges: 'the outside edges',
  edgesOfTheSameSide: 'edges of the same side',
  theCentres: 'the centres',
  takeIt: 'Take it',
  heldAt: 'Held at',
  theReadingsDifferBy: 'The readings differ by',
  takeThemAgainSquareToThe: ': take them again, square to the face.',
  caliper: 'caliper',

  holesFromTheMiddleRightUp: 'Holes from the middle: right, up',
  anotherHole: 'another hole',
  holes: 'Holes',
  baseBelowTheBore: 'Base below the bore',
  count: 'Count',
  notYet: 'not yet',
  holesOffTheBoreRight: 'Holes off the bore, right',
  holesOffTheBoreUp: 'Holes off the bore, up',

  notLookedYet: 'not looked yet',
  plug: 'Plug',
  whatTheShopCallsIt: 'what the shop calls it',

  flange: 'Flange',
  notMeasuredWhetherItFitsA: 'Not measured: whether it fits a manifold cannot be said.',
  measureIt: 'Measure it',
  clear: 'clear',
  hole: 'Hole',
  thickness: 'Thickness',
  seal: 'Seal',
  canBeClocked: 'Can be clocked',
} as const;

/** Every fixed text of features/sums: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  sums: 'Sums',
  units: 'Units',
  anyUnitIntoAnyOther: 'Any unit into any other',

  copyTheAddress: 'Copy the address',
  startAgain: 'Start again',
  howItIsWorkedOut: 'How it is worked out',

  typeAFigureWithItsUnit: 'Type a figure with its unit, the way it stands on a sheet or a label.',
  figure: 'Figure',
  figureWithItsUnit: 'Figure with its unit',
  inchesOfMercuryAt0C:
    'Inches of mercury at 0 °C, inches of water at 4 °C; horsepower of 550 ft·lbf/s, PS of 75 kp·m/s. Pressures here are plain: a gauge figure stays a gauge figure.',
} as const;

/** Every fixed text of ui/chart: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  picturePng: 'Picture, PNG',
  pictureSvg: 'Picture, SVG',
  data: 'Data,',

  theChartCouldNotBeFetched: 'The chart could not be fetched from the server. Reload the page when it is back.',
  drawing: 'drawing…',
} as const;

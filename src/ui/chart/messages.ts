/** Every fixed text of ui/chart: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  picturePng: 'Picture, PNG',
  pictureSvg: 'Picture, SVG',
  data: 'Data,',

  theChart: 'The chart',
  drawing: 'drawing…',
} as const;

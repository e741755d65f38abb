/** Every fixed text of features/customer: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  powerAgainstStockInPercentOver: 'Power against stock in percent over engine speed, measured with its band, and predicted',
  powerAgainstStock: 'power against stock, %',
  rpm: 'rpm',
  measured: 'measured',
  predicted: 'predicted',
  why: 'Why',
  inTheShopsWords: 'In the shop’s words',
  asAPdf: 'As a PDF',
  thisPageOpensUntil: '· this page opens until',
} as const;

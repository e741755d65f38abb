/** Every fixed text of ui/table: read through here, translated from here. Sentences with figures in them are typed functions beside it. */
export const msg = {
  columns: 'columns',
  copiesTheRowsAsShownFor: 'Copies the rows as shown, for a spreadsheet',
  copy: 'copy',
  csv: 'CSV,',
  csv2: 'CSV',
} as const;

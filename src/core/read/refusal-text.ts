import { MOST_CHANNELS } from '../documents/kinds';
import type { ContainerFault, ReadRefusal } from './result';

/** Why a file was not taken, and what to do about it. */
const FAULTS: Readonly<Record<ContainerFault, (container: string) => string>> = {
  damaged: (c) => `This should be ${c}, but it is damaged or cut off. Send it again, or export the run as text (CSV).`,
  too_large: (c) => `What is in ${c} is larger than is unpacked here. Unpack it yourself and send the one table that is needed.`,
  no_table: (c) => `There is ${c}, but no table of figures in it. At least three rows with two figures each are needed.`,
  encrypted: (c) => `This is ${c} with a password. Save it without one, or export the run as text (CSV).`,
  form: (c) =>
    `This is ${c} in a form that is not read here (mixed streams of records, or conversions that are tables or formulas). Export it again as sorted MDF 4 with physical values, or as CSV.`,
};

export function refusalText(refusal: ReadRefusal): string {
  switch (refusal.refused) {
    case 'empty_file':
      return 'The file is empty. Export it again from the logger.';
    case 'not_text':
      if (refusal.looksLike.endsWith('picture'))
        return `This is ${refusal.looksLike}, not a table. If it shows a power curve, take it in with “From a picture”: its points can be read off.`;
      if (refusal.looksLike === 'a PDF document')
        return 'This is a PDF document, which holds a picture of the page and no table. Export the run as CSV; or take a picture of the curve (PNG or JPEG) and read it with “From a picture”.';
      return `This is ${refusal.looksLike}, not a table of figures, whatever its name says. Export the run as text (CSV) or as a workbook.`;
    case 'no_numeric_column':
      return `No column of figures was found; line ${refusal.line} is “${refusal.text.slice(0, 60)}”. The file needs rows of numbers, separated by commas, semicolons or tabs.`;
    case 'too_many_cells':
      return `Line ${refusal.line} has ${refusal.columns} cells; up to ${MOST_CHANNELS} columns are taken. Export fewer channels.`;
    case 'which_table':
      return `This is ${refusal.container} with several tables: ${refusal.tables.map((t) => `“${t.name}”`).join(', ')}. Say which one is meant.`;
    case 'container':
      return FAULTS[refusal.why](refusal.container);
  }
}

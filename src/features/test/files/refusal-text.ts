import type { ReadRefusal } from '@/core/read/result';

/** Why a file was not taken, and what to do about it. */
export function refusalText(refusal: ReadRefusal): string {
  switch (refusal.refused) {
    case 'empty_file':
      return 'The file is empty. Export it again from the logger.';
    case 'not_text':
      return `This is ${refusal.looksLike}, not a table of figures, whatever its name says. Export the run as text (CSV).`;
    case 'no_numeric_column':
      return `No column of figures was found; line ${refusal.line} is “${refusal.text.slice(0, 60)}”. The file needs rows of numbers, separated by commas, semicolons or tabs.`;
    case 'too_many_cells':
      return `Line ${refusal.line} has ${refusal.columns} cells; up to 600 columns are taken. Export fewer channels.`;
  }
}

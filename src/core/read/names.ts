import { ruleOf } from './rules';

/** Names of columns that the reader itself goes by. */
const COUNTER = /^(sample|index|idx|#|no\.?|nr\.?|record|scan|point|row|count|frame|zeile|messpunkt)(\s*(no|nr|number|index|#)\.?)?$/i;

export const isTimeName = (name: string): boolean => ruleOf('time')!.name.test(name.trim());
/** A running number of the samples. */
export const isCounter = (name: string): boolean => COUNTER.test(name.trim());

const SUMMARY = new RegExp(
  '^(max|min|maxim\\w+|minim\\w+|peak|avg|average|mean|median|std|st\\.? ?dev|stdev|stddev|sum|total|range|mittel\\w*|durchschnitt|summe|spitze|' +
    'moyenne|maxi|mini|somme|promedio|media|máx\\w*|mín\\w*|massimo|gemiddeld\\w*|medel\\w*|макс\\S*|мин\\S*|средн\\S*|最大|最小|平均)' +
    '(?![\\p{L}\\d])',
  'iu',
);
/** What begins a row that sums a table up instead of being one of it: "Max", "Average:", "Peak power". */
export const isSummary = (cell: string): boolean => cell.length <= 40 && SUMMARY.test(cell.trim());

/** Names of columns that the reader itself goes by. */
const TIME = /^(time|t|elapsed|zeit|timestamp|seconds|temps|tiempo|tempo|время|時間|时间)(\b|$|[\s_])/i;
const COUNTER = /^(sample|index|idx|#|no\.?|nr\.?|record|scan|point|row|count|frame|zeile|messpunkt)(\s*(no|nr|number|index|#)\.?)?$/i;

export const isTimeName = (name: string): boolean => TIME.test(name.trim());
/** A running number of the samples. */
export const isCounter = (name: string): boolean => COUNTER.test(name.trim());

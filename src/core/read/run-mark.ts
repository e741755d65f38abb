/** What tells one run's columns from another's: "run 2", "Lauf_3", as the text of a pattern. */
export const RUN_MARK = String.raw`(?:run|pull|lauf|messung|test|series)[\s_#.-]*\d{1,3}`;

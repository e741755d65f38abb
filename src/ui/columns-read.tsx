import { msg } from './messages';

/** What of a pasted or dropped table's columns was left, and which were read in a unit that nobody named. */
export function ColumnsRead({
  unused,
  assumed,
}: {
  unused: readonly string[];
  assumed: readonly { readonly column: string; readonly unit: string }[];
}) {
  return (
    <>
      {unused.length > 0 && (
        <p className="quiet">
          {msg.columnsNotUsed} {unused.join(', ')}.
        </p>
      )}
      {assumed.length > 0 && (
        <p>
          {msg.noUnitNamedReadAs} {assumed.map((a) => `${a.column} (${a.unit})`).join(', ')}. {msg.nameAnotherInTheHeader}
        </p>
      )}
    </>
  );
}

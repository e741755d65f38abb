/** What was done on a run-sheet, by whom and when. Only ever added to. */
export type SheetEvent = {
  readonly who: string;
  /** When it was, by the clock of where it is kept; before it got there, by the device's own. */
  readonly at_ms: number;
  /** What the device's clock said, where that differs. */
  readonly phone_ms?: number | undefined;
  /** When it was kept. */
  readonly kept_ms?: number | undefined;
  readonly id?: string | undefined;
  /** The device it was written on, and the last kept event that device had heard of then: clocks are not to be believed. */
  readonly device?: string | undefined;
  readonly seen?: string | null | undefined;
} &
  /** A reason is asked for where a step is ticked against what its own readings say. */
  (
    | { readonly type: 'done'; readonly step: string; readonly reason?: string | undefined }
    | { readonly type: 'undone'; readonly step: string; readonly reason: string }
    | { readonly type: 'passed'; readonly gate: string }
    | { readonly type: 'failed'; readonly gate: string; readonly reason: string }
    /** Takes one word, count, note or photo back; it stays in the sheet's history. */
    | { readonly type: 'taken back'; readonly of: string; readonly reason: string }
    | { readonly type: 'fasteners out' | 'fasteners back'; readonly bag: string; readonly count: number }
    | { readonly type: 'note'; readonly step: string; readonly text: string }
    | { readonly type: 'photo'; readonly step: string; readonly hash: string }
    | { readonly type: 'engine on' | 'engine off' }
    /** Engine speed at even steps from `at_ms` on. */
    | { readonly type: 'rpm'; readonly step_ms: number; readonly rpm: readonly number[] }
  );

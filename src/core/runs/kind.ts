import type { ChannelMap, PowerKind, Quantity, RunDoc, StoredRun } from '../documents/run';
import { isSettled } from '../read/guess';
import { kindRank } from '../read/power-kind';
import type { CorrectionMethod } from '../documents/kinds';

const FURTHER: Readonly<Record<string, Quantity>> = { power: 'further power', torque: 'further torque' };
const FIRST: Readonly<Record<string, Quantity>> = { 'further power': 'power', 'further torque': 'torque' };

const docKind = (doc: RunDoc): PowerKind => ({
  at: doc.measuredAt === 'unknown' ? null : doc.measuredAt,
  carried: doc.carried === 'unknown' ? null : doc.carried,
});

/** The kind a channel is of: the run's own for the one that stands for it, else what its column says. */
function kindOf(doc: RunDoc, channel: ChannelMap): PowerKind {
  const run = docKind(doc);
  if (channel.quantity === 'power' || channel.quantity === 'torque') return run;
  const { at = null, carried = null } = channel.power ?? {};
  return { at: at ?? run.at, carried: carried === 'unknown' ? null : carried };
}

const key = ({ at, carried }: PowerKind): string => `${at ?? '?'} ${carried ?? '?'}`;
const isOne = (c: ChannelMap): boolean => (c.quantity in FURTHER || c.quantity in FIRST) && isSettled(c);

/** Every kind of power or torque that a run's settled channels speak of, the run's own first. */
export function powerKinds(doc: RunDoc): PowerKind[] {
  const found = new Map<string, PowerKind>();
  const own = doc.channels.filter((c) => c.quantity in FURTHER && isSettled(c));
  for (const c of [...own, ...doc.channels.filter(isOne)]) found.set(key(kindOf(doc, c)), kindOf(doc, c));
  return [...found.values()];
}

/** A run with the channels of one of its kinds in the place of its own. */
function asKind<T extends Pick<StoredRun, 'doc'>>(run: T, kind: PowerKind): T {
  const { doc } = run;
  if (key(docKind(doc)) === key(kind)) return run;
  const channels = doc.channels.map((c): ChannelMap => {
    if (c.quantity in FURTHER) return { ...c, quantity: FURTHER[c.quantity]!, power: docKind(doc) };
    return c.quantity in FIRST && isSettled(c) && key(kindOf(doc, c)) === key(kind) ? { ...c, quantity: FIRST[c.quantity]! } : c;
  });
  return { ...run, doc: { ...doc, channels, measuredAt: kind.at ?? 'unknown', carried: kind.carried ?? 'unknown' } };
}

export interface OneKind<T> {
  readonly runs: readonly T[];
  /** The kind that all of them are compared by; null where they have none in common. */
  readonly kind: PowerKind | null;
  /** Names of the runs whose own column gave way to another of theirs, so that all are of one kind. */
  readonly changed: readonly string[];
}

/**
 * Runs to be compared, brought to one kind of power: as they stand where they agree; else the kind they all have a column
 * of, the asked-for correction first, then the nearest to what was measured. Where they have none in common they stay as
 * they are, and what differs is the comparison's to say.
 */
export function runsOfOneKind<T extends Pick<StoredRun, 'doc'>>(runs: readonly T[], to: CorrectionMethod): OneKind<T> {
  const own = new Set(runs.map((r) => key(docKind(r.doc))));
  if (own.size <= 1) return { runs, kind: runs[0] ? docKind(runs[0].doc) : null, changed: [] };
  const all = runs.map((r) => powerKinds(r.doc));
  const common = (all[0] ?? []).filter((k) => all.every((kinds) => kinds.some((o) => key(o) === key(k))));
  const [kind] = [...common].sort((a, b) => Number(b.carried === to) - Number(a.carried === to) || kindRank(a) - kindRank(b));
  if (!kind) return { runs, kind: null, changed: [] };
  const brought = runs.map((r) => asKind(r, kind));
  return { runs: brought, kind, changed: runs.filter((r, i) => brought[i] !== r).map((r) => r.doc.name) };
}

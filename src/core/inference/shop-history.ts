import { isFailure } from '../failure';
import { historyOf, type HistoryAnswer } from './history';

/** Rigs whose studies a shop adds up. */
export const KEPT_RIGS = ['dyno', 'stripTime', 'stripSpeed'] as const;
export type KeptRig = (typeof KEPT_RIGS)[number];

/** A shop's own history on one rig, and how many studies it comes from. */
export interface RigHistory extends HistoryAnswer {
  readonly studies: number;
}
export type ShopHistory = Readonly<Partial<Record<KeptRig, RigHistory>>>;

/** What a shop's studies left, added up rig by rig; a rig nobody has studied is not there. */
export function shopHistoryOf(leaves: readonly Readonly<Partial<Record<KeptRig, readonly number[]>>>[]): ShopHistory {
  const out: Partial<Record<KeptRig, RigHistory>> = {};
  for (const rig of KEPT_RIGS) {
    const logs = leaves.flatMap((l) => (l[rig] ? [l[rig]] : []));
    const found = logs.length > 0 ? historyOf({ rig, logs }) : null;
    if (found && !isFailure(found)) out[rig] = { ...found, studies: logs.length };
  }
  return out;
}

/** ln likelihoods by rig, as the inference takes them. */
export const historyLogs = (h: ShopHistory | null): Partial<Record<KeptRig, readonly number[]>> =>
  Object.fromEntries(KEPT_RIGS.flatMap((rig) => (h?.[rig] ? [[rig, h[rig].logL]] : [])));

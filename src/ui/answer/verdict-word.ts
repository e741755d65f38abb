import type { RankedVerdict } from '@/core/job/ranking';

/** A ranking's word as it is read: the sums and the API keep their own names. */
export const verdictWord = (v: RankedVerdict): string => (v === 'too big for its manners' ? 'too touchy off idle' : v);

import type { BoardQuery } from '@/server/board';
import { startOfDay } from '@/ui/dates';
import { readPrefs } from '@/ui/theme/cookies';

/** When the day the board was asked for begins where its reader is; null where no day was asked for. */
export const boardSince = async (query: BoardQuery): Promise<Date | null> =>
  query.since === undefined ? null : startOfDay(query.since, (await readPrefs()).zone);

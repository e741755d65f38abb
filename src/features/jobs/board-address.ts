import type { BoardQuery } from '@/server/board';

/** The board as it was last narrowed, kept in the browser: the server opens the board with it. */
export const BOARD_COOKIE = 'vanner-board';
/** What an example job is tagged with. */
export const EXAMPLE_TAG = 'example';

const KEYS = ['q', 'tag', 'state', 'verdict', 'who', 'since', 'sort', 'up', 'page'] as const;

const textOf = (query: BoardQuery): string => {
  const params = new URLSearchParams();
  for (const key of KEYS) {
    const value = query[key];
    if (value !== undefined) params.set(key, String(value));
  }
  return params.toString();
};

/** Where the board stands as it is asked for; all of it where nothing is. */
export function boardAddress(query: BoardQuery): string {
  const text = textOf(query);
  return text === '' ? '/' : `/?${text}`;
}

const HALF_A_YEAR_S = 15_768_000;

/** Remembers how the board is narrowed and sorted; on which page one was is not. */
export function rememberBoard(query: BoardQuery): void {
  document.cookie = `${BOARD_COOKIE}=${encodeURIComponent(textOf({ ...query, page: undefined }))}; path=/; max-age=${HALF_A_YEAR_S}; samesite=strict`;
}

/** Whether anything is left out; the order leaves nothing out. */
export const isFiltered = (query: BoardQuery): boolean =>
  (['q', 'tag', 'state', 'verdict', 'who', 'since'] as const).some((key) => query[key] !== undefined);

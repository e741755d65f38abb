import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(dirname(fileURLToPath(import.meta.url))));

/** Where this installation keeps its database and its notes to itself; git ignores it. */
export const LOCAL = process.env.VANNER_DATA ?? join(ROOT, '.local');

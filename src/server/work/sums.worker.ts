/** A server thread that works out what takes more than a moment. Bundled by scripts/build-workers.mjs. */
export { workedOut as default } from './sums';

/** A class is its own name, so that components render as they would. */
module.exports = new Proxy({}, { get: (_t, key) => (key === '__esModule' ? false : String(key)) });

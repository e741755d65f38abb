// Every drawn case is the same on every run, so that a check that fails fails again. VANNER_SEED draws others: "random", or a number to see one again.
// eslint-disable-next-line @typescript-eslint/no-require-imports -- the test runner loads this by its own old way
const fc = require('../node_modules/fast-check/lib/cjs/fast-check.js');

const asked = process.env.VANNER_SEED;
const seed = asked === 'random' ? Math.floor(Math.random() * 2 ** 31) : Number(asked ?? 20261128);
fc.configureGlobal({ ...fc.readConfigureGlobal(), seed });
module.exports = fc;

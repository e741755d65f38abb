/** The core's own tests, as Stryker runs them: a fault in the core is to be noticed there. */
import config from './jest.config.cjs';

export default { ...config.projects[0], rootDir: import.meta.dirname, testMatch: ['<rootDir>/src/core/**/*.test.ts'] };

/** Tests are never timed: a slow machine only takes longer. */
jest.setTimeout(60_000);

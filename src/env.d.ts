declare namespace NodeJS {
  interface ProcessEnv {
    /** Which build this is; put in by the build, which looks for it written with a dot. */
    readonly VANNER_RELEASE?: string;
  }
}

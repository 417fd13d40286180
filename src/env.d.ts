interface ImportMetaEnv {
  /** What the core is, in a word (vite.config.ts). */
  readonly CORE: string;
}

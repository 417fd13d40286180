/** Fetches what the store needs only now and then: for when there will be no server to ask. */
export const fetchAhead = (): Promise<unknown> =>
  Promise.all([
    import('../core/bundle/zip.ts'),
    import('../core/design/merge.ts'),
    import('../core/summary/summary.ts'),
  ]);

/** The one control of a page on a phone: found without looking for it. */
export const BIG = { size: '2xl', w: '100%', minH: '6rem', fontSize: '1.6rem', mb: '3' } as const;

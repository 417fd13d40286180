/** Resolution of straightened photos, px/mm: what edges and fine lines are measured at. */
export const PX = 10;
/** Resolution at which ink is told from ground, px/mm: two by two pixels of a straightened photo, seen as one. */
export const SORT_PX = PX / 2;

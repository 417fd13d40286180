/** Working resolution of straightened photos, px/mm. */
export const PX = 10;

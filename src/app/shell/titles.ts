import { titled } from '../ui/page-focus.ts';

/** Pages by the part of their address after the workshop, as their titles name them. */
const PAGES: Readonly<Record<string, string>> = {
  '': 'Trials',
  new: 'A new trial',
  shelf: 'Shelf',
  methods: 'Methods',
  pictures: 'Pictures',
  known: 'What you know',
  recipes: 'Recipes',
  find: 'Find',
  train: 'Train your eye',
  safe: 'Safe',
  phone: 'Phone',
  wall: 'The wall',
};

/**
 * The title of the page at an address, under which it stands in tabs and in the history; nothing where the page names
 * itself by what it shows.
 *
 * @example titleOf('/w/mine/shelf'); // => 'Shelf · Wet Test'
 * @example titleOf('/w/mine/t/ABC/plan'); // => undefined
 */
export function titleOf(pathname: string): string | undefined {
  const [, , , page = '', more] = pathname.split('/');
  if (page === 't' || (page === 'recipes' && more)) return undefined;
  return titled(PAGES[page] ?? 'Nothing here');
}

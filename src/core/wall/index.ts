export { hungIn, pathTo } from './path.ts';
export {
  arranged,
  type Group,
  type GroupBy,
  type OrderBy,
  type Ordering,
  type WallPatch,
  wallOf,
} from './wall.ts';

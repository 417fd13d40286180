export {
  arranged,
  type Group,
  type GroupBy,
  type OrderBy,
  type Ordering,
  type WallPatch,
  wallOf,
} from './wall.ts';

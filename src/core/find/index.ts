export {
  choicesOf,
  type Entry,
  entriesOf,
  FOUND_KINDS,
  type FoundKind,
  findIn,
  type Narrowed,
  type Notebook,
  notebookOf,
} from './find.ts';
export { type MaterialStory, materialStory } from './material.ts';

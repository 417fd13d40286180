export { colourFrom, hexOf, labOf } from './colour.ts';
export { SHELF_FIELDS, SHELF_NAMES, type ShelfField } from './fields.ts';
export { checkItem, copyOf, itemId, type NumberRange, rangeOf, SHELF_KINDS, search } from './items.ts';
export * from './kinds.ts';
export { isCounted, isLowOn, onHandWords } from './low.ts';
export * from './schema.ts';
export { STARTER_SHELF } from './starter.ts';
export { readShelfCsv, shelfCsv } from './table.ts';

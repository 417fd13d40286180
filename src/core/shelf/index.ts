export { Donor, Medium, Preparation, Printer, Shelf, Substrate } from './schema.ts';
export { STARTER_SHELF } from './starter.ts';

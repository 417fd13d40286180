/** The package's main file is no module although it says so; its module file has no types of its own. */
declare module 'maxrects-packer/dist/maxrects-packer.mjs' {
  export * from 'maxrects-packer';
}

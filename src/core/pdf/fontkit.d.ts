declare module 'fontkit' {
  /** Opens a TrueType, OpenType, WOFF or WOFF2 font from its bytes. */
  export function create(bytes: Uint8Array): unknown;
}

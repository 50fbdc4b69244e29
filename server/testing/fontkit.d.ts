declare module "fontkit" {
  /** Reads a font. */
  export function create(octets: Uint8Array): { hasGlyphForCodePoint(code: number): boolean };
}

/** One piece of an audience text. */
export interface Token {
  at: number;
  length: number;
  /** As written, without its quotes. */
  text: string;
  kind: "word" | "name" | "sign" | "open name";
}

/**
 * Takes an audience text apart: words, names in quotes, and the signs `( ) + & , = < <= > >= <>`.
 * A name whose closing quote is missing is an `open name`. Curly quotes count as straight ones.
 */
export function tokens(text: string): Token[] {
  return [
    ...text.matchAll(/["“”„]([^"“”„]*)(["“”„]?)|<=|>=|<>|[()+&,=<>]|[^\s"“”„()+&,=<>]+/gu),
  ].map((match): Token => {
    const [whole, inner, close] = match;
    const place = { at: match.index, length: whole.length };
    if (inner !== undefined)
      return { ...place, text: inner, kind: close === "" ? "open name" : "name" };
    return { ...place, text: whole, kind: /^[()+&,=<>]/.test(whole) ? "sign" : "word" };
  });
}

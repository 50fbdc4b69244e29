/** Tags inside each other beyond this many change nothing that anybody sees, and parsers take ever longer over them. */
const DEEPEST = 1000;

const TAG = /<(\/?)([a-zA-Z][a-zA-Z0-9]*)/g;
/** Elements that hold nothing, so that nothing is inside them (HTML, section 13.1.2). */
const VOID = new Set("area base br col embed hr img input link meta source track wbr".split(" "));

/**
 * Returns an HTML text whose tags are nested a thousand deep at most; further ones are turned into a tag that holds nothing
 * and shows nothing. Takes time in proportion to the length. It does not make HTML safe: that is done afterwards.
 */
export function flattened(html: string): string {
  let depth = 0;
  return html.replace(TAG, (whole, closing: string, name: string) => {
    if (VOID.has(name.toLowerCase())) return whole;
    if (closing === "") return ++depth > DEEPEST ? "<wbr" : whole;
    if (depth === 0) return whole;
    return depth-- > DEEPEST ? "</wbr" : whole;
  });
}

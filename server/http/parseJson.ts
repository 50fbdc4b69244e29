import { isStorable } from "./storable";

/** Values inside each other beyond this many are nobody's request. */
const DEEPEST = 32;

/**
 * Parses JSON (RFC 8259) that comes from outside.
 *
 * @param isAllowed which texts may be in it, as names or values; by default those that the database can keep
 * @returns undefined where the text is no JSON, is nested more than 32 deep, or holds text that is not allowed
 */
export function parseJson(
  text: string,
  isAllowed: (text: string) => boolean = isStorable,
): unknown {
  if (isTooDeep(text)) return undefined;
  try {
    return JSON.parse(text, (key: string, value: unknown) => {
      if (!isAllowed(key) || (typeof value === "string" && !isAllowed(value)))
        throw new Error("text that the database can't keep");
      return value;
    }) as unknown;
  } catch {
    return undefined;
  }
}

/** Whether brackets outside of strings are nested too deep. One look at each sign. */
function isTooDeep(text: string): boolean {
  let depth = 0;
  let isText = false;
  for (let at = 0; at < text.length; at++) {
    const sign = text.charCodeAt(at);
    if (isText) {
      if (sign === 0x5c) at++;
      else if (sign === 0x22) isText = false;
    } else if (sign === 0x22) isText = true;
    else if (sign === 0x5b || sign === 0x7b) {
      if (++depth > DEEPEST) return true;
    } else if (sign === 0x5d || sign === 0x7d) depth--;
  }
  return false;
}

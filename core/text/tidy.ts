/** Signs that nobody sees: soft hyphen, zero-width marks, direction marks, word joiner, byte-order mark. */
const INVISIBLE =
  /[\u00AD\u034F\u061C\u115F\u1160\u17B4\u17B5\u180B-\u180E\u200B-\u200F\u202A-\u202E\u2060-\u2064\u206A-\u206F\uFE00-\uFE0F\uFEFF]/g;

/** Control characters except tab and line breaks; they have no place in a name or an address. */

const CONTROL = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\u007F-\u009F]/g;

/** Removes what cannot be seen and turns every kind of space into an ordinary one. */
export function withoutInvisible(text: string): string {
  return text
    .replace(INVISIBLE, "")
    .replace(CONTROL, "")
    .replace(/[\u00A0\u1680\u2000-\u200A\u202F\u205F\u3000]/g, " ");
}

/** One line of text: nothing invisible, runs of spaces and line breaks a single space, trimmed. */
export function tidyLine(text: string): string {
  return withoutInvisible(text).replace(/\s+/g, " ").trim();
}

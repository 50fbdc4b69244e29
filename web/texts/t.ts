import { webTexts } from "@amigo/language/english/web";
import { sayerOf, textsOf, type IdOf } from "@amigo/language/say";

/** The name of a text of the interface: the feature whose it is, and its own name there. */
export type TextId = IdOf<typeof webTexts>;

/** Returns a text of the catalogue, ready to be filled. */
export const textOf = textsOf(webTexts);

/** Returns a text of the interface in the reader's language, with its places filled (ICU MessageFormat). */
export const t = sayerOf(webTexts);

import { serverTexts } from "@amigo/language/english/server";
import { plain } from "@amigo/language/say";
import { sayerOf, type IdOf } from "@amigo/language/texts";

/** The name of a text of the server: the feature whose it is, and its own name there. */
export type TextId = IdOf<typeof serverTexts>;

/** Returns a text of the server (a refusal, a mail, a page, an entry of the journal) with its places filled (ICU MessageFormat). */
export const t = sayerOf(serverTexts, "server", plain);

import { sql, type SQL, type SQLWrapper } from "drizzle-orm";
import { LANGUAGES } from "@amigo/core/text/place";
import { speechHere } from "@amigo/language/texts";

/** Returns a text to sort by in the order of the language that is spoken here: the database itself sorts by code points. */
export function alphabetical(text: SQLWrapper): SQL {
  const [language = ""] = speechHere().locale.split("-");
  const collation = LANGUAGES.includes(language) ? language : "und";
  return sql`${text} collate ${sql.raw(`"${collation}-x-icu"`)}`;
}

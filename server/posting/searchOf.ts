import { withoutAccents } from "@amigo/core/text/fold";
import { sql, type SQL } from "drizzle-orm";

function begunWith(word: string): string {
  return `'${word.replace(/'/g, "''")}':*`;
}

/** What is typed into a search field, as words that must all be there, each at least begun. */
export function searchOf(typed: string): SQL {
  const words = typed
    .normalize("NFC")
    .split(/[^\p{L}\p{N}@._-]+/u)
    .map((word) => word.replace(/^[-._@]+|[-._@]+$/g, ""))
    .filter((word) => word !== "")
    .slice(0, 20);
  return words.length === 0
    ? sql`''::tsquery`
    : sql`(${sql.join(
        words.map(
          (word) =>
            sql`to_tsquery('simple', ${`${begunWith(word)} | ${begunWith(withoutAccents(word))}`})`,
        ),
        sql` && `,
      )})`;
}

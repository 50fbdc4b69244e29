import { bigint, boolean, index, pgTable, bigserial, text, uuid } from "drizzle-orm/pg-core";
import { bytea, instant, jsonb } from "./columns";

/** Everything that was done. Rows are only ever added; a trigger sees to it. */
export const journal = pgTable(
  "journal",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    at: instant("at").notNull().defaultNow(),
    actorId: uuid("actor_id"),
    actor: text().notNull(),
    action: text().notNull(),
    sentence: text().notNull(),
    listId: uuid("list_id"),
    before: jsonb(),
    after: jsonb(),
  },
  (table) => [index("journal_list").on(table.listId, table.id)],
);

/**
 * The chain that the journal's entries make in the order in which they were kept: each link holds the hash of the one before. A
 * trigger adds a link for every entry, and one more where personal data is taken out of it. No link is ever changed or removed.
 */
export const journalLink = pgTable(
  "journal_link",
  {
    place: bigint({ mode: "number" }).primaryKey(),
    entryId: bigint("entry_id", { mode: "number" }).notNull(),
    /** When the entry was made; it is known here, too, once the entry is over its time. */
    at: instant("at").notNull(),
    /** Whether it is of an entry that was changed, not of a new one. */
    isChange: boolean("is_change").notNull(),
    /** The SHA-256 of what the entry says, and of the link before with all that this one holds. */
    content: bytea().notNull(),
    hash: bytea().notNull(),
  },
  (table) => [index("journal_link_entry").on(table.entryId, table.place)],
);

import { pgTable, bigserial, uuid, text, index } from "drizzle-orm/pg-core";
import { instant, jsonb } from "./columns";

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

import { type request } from "../db/schema/requests";

/** The addresses that come onto lists by an edit. */
export function keptAddresses(edit: (typeof request.$inferSelect)["work"]["edit"]): string[] {
  return edit?.what === "lists" ? edit.lists.flatMap(({ keep }) => keep ?? []) : [];
}

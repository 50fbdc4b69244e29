/** The first part of the addresses of pages (`web/app`); at every other address there is none. */
export const PLACES: ReadonlySet<string> = new Set([
  ...["", "account", "accounts", "changes", "dates", "enter", "forms", "house", "intakes"],
  ...["journal", "lists", "mail", "member", "password", "people", "posts", "reach", "requests"],
  ...["sign-in", "sources"],
]);

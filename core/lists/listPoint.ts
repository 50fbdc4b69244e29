/** Everything about a list that somebody can set apart from its recipe, or that makes up a list without one. */
export const LIST_POINTS = ["name", "title", "description", "short", "audience", "preset", "leads", "findable", "outside", "leaving", "adding", "welcome", "state", "season"] as const;

export type ListPoint = (typeof LIST_POINTS)[number];

/** How the interface names a point. */
export const POINT_WORDS: Record<ListPoint, string> = {
  name: "name", title: "display name", description: "description", short: "short names", audience: "audience", preset: "posting rules", leads: "leads", findable: "findable by",
  outside: "outside addresses", leaving: "leaving", adding: "how members are added", welcome: "welcome text", state: "open or closed", season: "season",
};

/** What a sheet doesn't say itself. */
export interface ReadingContext {
  /** The house's time zone, by whose clocks answers are dated. */
  timeZone: string;
  /** The house's current season, such as `2026-27`; empty where there is none. */
  season: string;
  /** The domain in which the house's lists live; empty where there is none. */
  listDomain: string;
}

export const NO_CONTEXT: ReadingContext = { timeZone: "UTC", season: "", listDomain: "" };

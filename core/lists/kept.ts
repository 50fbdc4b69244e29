/** An address held on a list, or off it, by hand. `lastDay` is a calendar date, empty for no end. */
export interface KeptValue {
  side: "on" | "off";
  reason: string;
  by: string;
  lastDay: string;
}

import { houseLocale } from "./time";

/** A share of a hundred as the house writes it: `98.6%`. */
export function percent(share: number): string {
  return new Intl.NumberFormat(houseLocale(), {
    style: "percent",
    maximumFractionDigits: 1,
  }).format(share / 100);
}

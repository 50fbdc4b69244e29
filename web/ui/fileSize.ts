import { houseLocale } from "./time";

const KILO = 1000;

/** The size of a file as people read it: `12 kB`, `3.4 MB`. */
export function fileSize(octets: number): string {
  const [unit, size, digits] =
    octets < KILO * KILO
      ? (["kilobyte", Math.max(1, octets / KILO), 0] as const)
      : (["megabyte", octets / KILO / KILO, 1] as const);
  return new Intl.NumberFormat(houseLocale(), {
    style: "unit",
    unit,
    maximumFractionDigits: digits,
  }).format(size);
}
